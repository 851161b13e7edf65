import { applyChange, inverseOf, pageStateOf, topZ, type Scene } from '@kite-trail/core/lesson/scene';
import type { Change } from '@kite-trail/core/lesson/mark';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';

/** Where a change goes once it is on the desk: into the pages, or into the take being recorded. */
export type ChangeSink = (change: Change, performanceMs: number) => void;

/** The scene the teacher writes on, with what can be undone of it. */
export const useDesk = defineStore('desk', () => {
  const scene = shallowRef<Scene | null>(null);
  /** Each step is what takes one gesture back. */
  const undoSteps = shallowRef<readonly (readonly Change[])[]>([]);
  const redoSteps = shallowRef<readonly (readonly Change[])[]>([]);
  let sink: ChangeSink = () => {};
  let gesture: Change[] | null = null;

  const canUndo = computed(() => undoSteps.value.length > 0);
  const canRedo = computed(() => redoSteps.value.length > 0);

  function lay(fresh: Scene, keepHistory = false): void {
    scene.value = fresh;
    if (keepHistory) return;
    undoSteps.value = [];
    redoSteps.value = [];
  }

  function sendTo(newSink: ChangeSink): void {
    sink = newSink;
  }

  /** Makes a change and passes it on. @returns what takes it back */
  function make(change: Change, performanceMs: number): Change | null {
    const before = scene.value!;
    const after = applyChange(before, change);
    if (after === before) return null;
    scene.value = after;
    sink(change, performanceMs);
    return inverseOf(before, change);
  }

  /** Makes a change that can be undone, by itself or as part of the gesture going on. */
  function change(one: Change, performanceMs = performance.now()): void {
    const inverse = make(one, performanceMs);
    if (!inverse) return;
    redoSteps.value = [];
    if (gesture) gesture.unshift(inverse);
    else undoSteps.value = [...undoSteps.value, [inverse]];
  }

  /** From now on, changes are undone together. */
  function beginGesture(): void {
    gesture ??= [];
  }

  function endGesture(): void {
    if (gesture && gesture.length > 0) undoSteps.value = [...undoSteps.value, gesture];
    gesture = null;
  }

  function undo(): void {
    const step = undoSteps.value.at(-1);
    if (!step) return;
    undoSteps.value = undoSteps.value.slice(0, -1);
    redoSteps.value = [...redoSteps.value, takeBack(step)];
  }

  function redo(): void {
    const step = redoSteps.value.at(-1);
    if (!step) return;
    redoSteps.value = redoSteps.value.slice(0, -1);
    undoSteps.value = [...undoSteps.value, takeBack(step)];
  }

  /** Shows the page that a step is about, so that nobody undoes what they cannot see, and makes its changes. */
  function takeBack(step: readonly Change[]): Change[] {
    const nowMs = performance.now();
    const [first] = step;
    if ('page' in first && typeof first.page === 'string') turnTo(first.page);
    return step.flatMap((one) => make(one, nowMs) ?? []).reverse();
  }

  function turnTo(page: PageId): void {
    make({ kind: 'turn', page }, performance.now());
  }

  /** The stacking place for a new piece on the page shown. */
  function nextZ(): number {
    return topZ(pageStateOf(scene.value!, scene.value!.shown)!);
  }

  return { scene, canUndo, canRedo, lay, sendTo, change, beginGesture, endGesture, undo, redo, turnTo, nextZ };
});
