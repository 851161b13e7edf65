import { changeProblem } from '@kite-trail/core/contract/change';
import { NO_HISTORY, type History } from '@kite-trail/core/formats/history-coding';
import { pageOf, type Change } from '@kite-trail/core/lesson/mark';
import { followed } from '@kite-trail/core/lesson/merge';
import { applyChange, inverseOf, pageStateOf, topZ, type Scene } from '@kite-trail/core/lesson/scene';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';

/** Where a change goes once it is on the desk: into the pages, or into the take being recorded. */
export type ChangeSink = (change: Change, performanceMs: number) => void;

/** Undo goes this far back. */
const MOST_STEPS = 200;

/** The scene the teacher writes on, with what can be undone of it. */
export const useDesk = defineStore('desk', () => {
  const laid = shallowRef<() => Scene | null>(() => null);
  const scene = computed({
    get: () => laid.value(),
    set: (changed) => (laid.value = () => changed),
  });
  /** Each step is what takes one gesture back, or brings it back. */
  const history = shallowRef<History>(NO_HISTORY);
  /** Why the last change was not made. */
  const problem = ref<string | null>(null);
  let sink: ChangeSink = () => {};
  let gesture: Change[] | null = null;

  const canUndo = computed(() => history.value.undo.length > 0);
  const canRedo = computed(() => history.value.redo.length > 0);

  /** @param fresh worked out when it is looked at: every edit of the trail lays a scene, which nobody sees while trimming */
  function lay(fresh: () => Scene, steps: History = NO_HISTORY): void {
    laid.value = fresh;
    history.value = steps;
    gesture = null;
  }

  function sendTo(newSink: ChangeSink): void {
    sink = newSink;
  }

  /** Whether changes go there just now. */
  const isOwnedBy = (owner: ChangeSink): boolean => sink === owner;

  /** Makes a change and passes it on. @returns what takes it back */
  function make(change: Change, performanceMs: number): Change[] {
    const before = scene.value!;
    const after = applyChange(before, change);
    if (after === before) return [];
    scene.value = after;
    const inverse = inverseOf(before, change);
    sink(change, performanceMs);
    return inverse;
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
    const inverse = make(one, performanceMs);
    if (inverse.length === 0) return;
    if (gesture) gesture = joined(inverse, gesture);
    else history.value = { undo: [...history.value.undo, inverse].slice(-MOST_STEPS), redo: [] };
  }

  /** Passes on what is seen for a while and leaves nothing on the page. */
  function pass(one: Change, performanceMs: number): void {
    sink(one, performanceMs);
  }

  /** Makes a change that is no step to undo. */
  function changeAside(one: Change): void {
    if (!isRefused([one])) make(one, performance.now());
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
    if (gesture && gesture.length > 0) {
      history.value = { undo: [...history.value.undo, gesture].slice(-MOST_STEPS), redo: [] };
    }
    gesture = null;
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
    for (const one of made) sink(one, performanceMs);
    const step = inverse.reverse().flat();
    if (step.length > 0) history.value = { undo: [...history.value.undo, step].slice(-MOST_STEPS), redo: [] };
  }

  function undo(): void {
    const { undo: steps, redo } = history.value;
    const step = steps.at(-1);
    if (step && !isRefused(step)) history.value = { undo: steps.slice(0, -1), redo: [...redo, takeBack(step)] };
  }

  function redo(): void {
    const { undo: steps, redo: undone } = history.value;
    const step = undone.at(-1);
    if (step && !isRefused(step)) history.value = { undo: [...steps, takeBack(step)], redo: undone.slice(0, -1) };
  }

  /** Makes a step's changes, and shows the page they are about, so that nobody undoes what they cannot see. */
  function takeBack(step: readonly Change[]): Change[] {
    const nowMs = performance.now();
    const page = pageOf(step[0]);
    if (page) turnTo(page);
    const back: Change[] = [];
    for (const one of step) back.unshift(...make(one, nowMs));
    if (page) turnTo(page);
    return back;
  }

  function turnTo(page: PageId): void {
    make({ kind: 'turn', page }, performance.now());
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
    sendTo,
    isOwnedBy,
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
