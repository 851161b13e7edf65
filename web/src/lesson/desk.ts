import { changeProblem } from '@kite-trail/core/contract/change';
import { NO_HISTORY, type History } from '@kite-trail/core/formats/history-coding';
import { pageOf, type Change } from '@kite-trail/core/lesson/mark';
import { followed } from '@kite-trail/core/lesson/merge';
import { applyChange, inverseOf, pageStateOf, topZ, type Scene } from '@kite-trail/core/lesson/scene';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { computed, shallowRef } from 'vue';
import type { WetStroke } from '../capture/pen-input';
import { useNotices } from './notices';
import { ofLesson } from './lesson-scope';

/** What has been done on the desk at once, and what can be undone after it. */
export interface Commit {
  /** None where a gesture has ended: its changes were committed one by one. */
  changes: readonly Change[];
  /** By the clock of `performance.now`. */
  atMs: number;
  history: History;
}

/** Undo goes this far back. */
const MOST_STEPS = 200;

/** The scene the teacher writes on, with what can be undone of it. */
export const useDesk = ofLesson(() => {
  const laid = shallowRef<() => Scene | null>(() => null);
  const scene = computed({
    get: () => laid.value(),
    set: (changed) => (laid.value = () => changed),
  });
  /** Each step is what takes one gesture back, or brings it back. */
  const history = shallowRef<History>(NO_HISTORY);
  /** Why the last change was not made. */
  const problem = useNotices().place('problem');
  /** Hears of whatever is done on the desk. */
  const onCommit = shallowRef<(commit: Commit) => void>(() => {});
  let wetStrokes: () => readonly WetStroke[] = () => [];
  let gesture: Change[] | null = null;

  const canUndo = computed(() => history.value.undo.length > 0);
  const canRedo = computed(() => history.value.redo.length > 0);

  /** @param fresh worked out when it is looked at: every edit of the trail lays a scene, which nobody sees while trimming */
  function lay(fresh: () => Scene, steps: History = NO_HISTORY): void {
    laid.value = fresh;
    history.value = steps;
    gesture = null;
  }

  /** The board tells which strokes are being written, so that even those survive a crash. */
  function watchWet(strokes: () => readonly WetStroke[]): void {
    wetStrokes = strokes;
  }

  function commit(changes: readonly Change[], atMs: number): void {
    onCommit.value({ changes, atMs, history: history.value });
  }

  /** Makes a change. @returns what takes it back, or `null` where it changes nothing */
  function make(change: Change): Change[] | null {
    const before = scene.value!;
    const after = applyChange(before, change);
    if (after === before) return null;
    scene.value = after;
    return inverseOf(before, change);
  }

  /** Adds a step that can be undone. */
  function addStep(step: Change[]): void {
    history.value = { undo: [...history.value.undo, step].slice(-MOST_STEPS), redo: [] };
  }

  /** What could not be kept is not made: the teacher is told why, and nothing changes. */
  function isRefused(changes: readonly Change[]): boolean {
    const found = changes.map(changeProblem).find((one) => one !== null) ?? null;
    problem.value = found;
    return found !== null;
  }

  /** Makes a change that can be undone, by itself or as part of the gesture going on. */
  function change(one: Change, performanceMs = performance.now()): void {
    if (isRefused([one])) return;
    const inverse = make(one);
    if (!inverse) return;
    if (inverse.length > 0) {
      if (gesture) gesture = joined(inverse, gesture);
      else addStep(inverse);
    }
    commit([one], performanceMs);
  }

  /** Passes on what is seen for a while and leaves nothing on the page. */
  function pass(one: Change, performanceMs: number): void {
    commit([one], performanceMs);
  }

  /** Makes a change that is no step to undo. */
  function changeAside(one: Change): void {
    if (!isRefused([one]) && make(one)) commit([one], performance.now());
  }

  /** Takes all ink off the page shown; pictures and what is printed on it stay. */
  function clearInk(): void {
    const { page, pieces } = pageStateOf(scene.value!, scene.value!.shown)!;
    const pieceIds = pieces.filter((piece) => piece.kind === 'stroke').map((piece) => piece.id);
    if (pieceIds.length > 0) change({ kind: 'lift', page: page.id, pieceIds });
  }

  /** From now on, changes are undone together. */
  function beginGesture(): void {
    gesture ??= [];
  }

  function endGesture(): void {
    const step = gesture ?? [];
    gesture = null;
    if (step.length === 0) return;
    addStep(step);
    commit([], performance.now());
  }

  /** Makes changes that are undone together. However many they are, what is shown changes once. */
  function changeTogether(changes: readonly Change[], performanceMs = performance.now()): void {
    const made: Change[] = [];
    const inverse: Change[][] = [];
    let after = scene.value!;
    if (isRefused(changes)) return;
    for (const one of changes) {
      const before = after;
      after = applyChange(before, one);
      if (after === before) continue;
      made.push(one);
      inverse.push(inverseOf(before, one));
    }
    scene.value = after;
    const step = inverse.reverse().flat();
    if (step.length > 0) addStep(step);
    if (made.length > 0) commit(made, performanceMs);
  }

  function undo(): void {
    const { undo: steps, redo } = history.value;
    const step = steps.at(-1);
    if (!step || isRefused(step)) return;
    revert(step, (back) => ({ undo: steps.slice(0, -1), redo: [...redo, back] }));
  }

  function redo(): void {
    const { undo: steps, redo: undone } = history.value;
    const step = undone.at(-1);
    if (!step || isRefused(step)) return;
    revert(step, (back) => ({ undo: [...steps, back], redo: undone.slice(0, -1) }));
  }

  /** Makes a step's changes, and shows the page they are about, so that nobody undoes what they cannot see. */
  function revert(step: readonly Change[], historyWith: (back: Change[]) => History): void {
    const page = pageOf(step[0]);
    const turn: Change[] = page ? [{ kind: 'turn', page }] : [];
    const steps = new Set(step);
    const back: Change[] = [];
    const made = [...turn, ...step, ...turn].filter((one) => {
      const inverse = make(one);
      if (inverse && steps.has(one)) back.unshift(...inverse);
      return inverse !== null;
    });
    history.value = historyWith(back);
    commit(made, performance.now());
  }

  function turnTo(page: PageId): void {
    const turn: Change = { kind: 'turn', page };
    if (make(turn)) commit([turn], performance.now());
  }

  /** The stacking place for a new piece on the page shown. */
  function nextZ(): number {
    return topZ(pageStateOf(scene.value!, scene.value!.shown)!);
  }

  return {
    scene,
    history,
    problem,
    canUndo,
    canRedo,
    lay,
    onCommit,
    watchWet,
    wet: () => wetStrokes(),
    change,
    pass,
    changeAside,
    clearInk,
    changeTogether,
    beginGesture,
    endGesture,
    undo,
    redo,
    turnTo,
    nextZ,
  };
});

/** A gesture's inverse with that of one more change. Of states that follow one another, only the first is gone back to. */
function joined(inverse: readonly Change[], gesture: readonly Change[]): Change[] {
  const [newest] = inverse;
  const [first] = gesture;
  return first && followed(newest, first) === first ? [...gesture] : [...inverse, ...gesture];
}
