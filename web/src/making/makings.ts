import type { LessonId } from '@kite-trail/core/lesson/ids';
import { nanoid } from 'nanoid';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { ENCODING_FAILED } from '../workers/film/encoding-failed';
import { Gate } from '../workers/gate';
import type { Told } from '../workers/told';

declare const makingBrand: unique symbol;
export type MakingId = string & { readonly [makingBrand]: never };
export const newMakingId = (): MakingId => nanoid(12) as MakingId;

export type MakingState = 'waiting' | 'making' | 'paused' | 'made' | 'failed';

/** What is to be made of a lesson, to be taken away. */
export interface Work {
  id: MakingId;
  lesson: LessonId;
  /** What of the lesson it is made of, so that whoever asked for it finds it. */
  of: string;
  /** The file's name. */
  name: string;
  /** Films need all of the machine: one at a time. What is quick does not wait for them. */
  isLong: boolean;
  /** @throws DOMException `AbortError` when it is given up; any other Error with a message for the teacher */
  make(told: Required<Told>): Promise<Blob>;
  /** What can be made where this device's encoder gives up: how that is offered, and what puts it into the queue. */
  instead?: { offer: string; order(): Promise<void> };
  /** Removes what was kept for it on this device. */
  discard?(): Promise<void>;
}

/** How something that is made stands. */
export interface Making extends Pick<Work, 'id' | 'lesson' | 'of' | 'name' | 'isLong'> {
  state: MakingState;
  /** From 0 to 1. */
  done: number;
  /** `null` while it cannot be told. */
  secondsLeft: number | null;
  /** Why it failed. */
  problem: string;
  /** What is offered where it failed; empty where nothing is. */
  instead: string;
  /** Where it can be saved from, when it is made. */
  url: string | null;
}

interface Running {
  work: Work;
  gate: Gate;
  abort: AbortController;
  /** What time was spent on it, and on which share, since it was last begun. */
  clock: { sinceMs: number; fromDone: number } | null;
  /** It has been begun, and waits at its gate while it is paused, or another's turn. */
  isBegun: boolean;
  /** What was made. */
  file: Blob | null;
}

/** So much has to be done before the time that is left can be told. */
const TOLD_FROM = 0.04;
const MS = 1000;

/** What is being made of lessons: the queue, whatever screen is shown. */
export const useMakings = defineStore('makings', () => {
  const list = ref<Making[]>([]);
  const running = new Map<MakingId, Running>();
  /** Somebody records: all else stands back. */
  const isStoodBack = ref(false);

  const open = computed(() =>
    list.value.filter(({ state }) => state === 'making' || state === 'waiting' || state === 'paused'),
  );
  const of = (lesson: LessonId, what?: string): Making[] =>
    list.value.filter((one) => one.lesson === lesson && (what === undefined || one.of === what));

  watch(isStoodBack, () => list.value.forEach(holdAsIs));

  function enter(work: Work, state: MakingState, file: Blob | null): void {
    const { id, lesson, of, name, isLong } = work;
    running.set(id, { work, gate: new Gate(), abort: new AbortController(), clock: null, isBegun: false, file });
    const done = file ? 1 : 0;
    const url = file && URL.createObjectURL(file);
    list.value.push({ id, lesson, of, name, isLong, state, done, secondsLeft: null, problem: '', instead: '', url });
  }

  /** Puts something at the end of the queue. */
  function add(work: Work): void {
    enter(work, 'waiting', null);
    next();
  }

  /** Something that was made earlier, and is kept on this device. */
  const addMade = (work: Work, file: Blob): void => enter(work, 'made', file);

  /** Begins what is first, where nothing like it is being made. */
  function next(): void {
    for (const isLong of [true, false]) {
      const alike = list.value.filter((one) => one.isLong === isLong);
      if (alike.some(({ state }) => state === 'making')) continue;
      const first = alike.find(({ state }) => state === 'waiting');
      if (!first) continue;
      first.state = 'making';
      holdAsIs(first);
      if (!running.get(first.id)!.isBegun) void make(first);
    }
  }

  async function make(making: Making): Promise<void> {
    const run = running.get(making.id)!;
    run.isBegun = true;
    try {
      const onDone = (done: number) => told(making, run, done);
      const file = await run.work.make({ signal: run.abort.signal, gate: run.gate, onDone });
      if (run.abort.signal.aborted) return;
      run.file = file;
      making.url = URL.createObjectURL(file);
      making.done = 1;
      making.state = 'made';
    } catch (error) {
      if (run.abort.signal.aborted) return;
      making.problem = `It was not made: ${(error as Error).message}`;
      if ((error as Error).name === ENCODING_FAILED) making.instead = run.work.instead?.offer ?? '';
      making.state = 'failed';
    } finally {
      making.secondsLeft = null;
      run.isBegun = false;
      next();
    }
  }

  function told(making: Making, run: Running, done: number): void {
    making.done = done;
    if (run.gate.isHeld) return;
    run.clock ??= { sinceMs: performance.now(), fromDone: done };
    const share = done - run.clock.fromDone;
    const perShare = (performance.now() - run.clock.sinceMs) / share;
    making.secondsLeft = share < TOLD_FROM ? null : Math.ceil((perShare * (1 - done)) / MS);
  }

  /** Whoever goes on begins to count anew. */
  function holdAsIs({ id, state }: Making): void {
    const run = running.get(id)!;
    run.clock = null;
    run.gate.hold(state !== 'making' || isStoodBack.value);
  }

  function pause(id: MakingId): void {
    const making = found(id);
    if (making.state !== 'making' && making.state !== 'waiting') return;
    making.state = 'paused';
    making.secondsLeft = null;
    holdAsIs(making);
    next();
  }

  /** Goes on with what was paused, when its turn comes; one that was begun goes on where it was. */
  function goOn(id: MakingId): void {
    const making = found(id);
    if (making.state !== 'paused') return;
    making.state = 'waiting';
    next();
  }

  /** Makes anew what failed. */
  function again(id: MakingId): void {
    const making = found(id);
    if (making.state !== 'failed') return;
    Object.assign(making, { state: 'waiting', problem: '', instead: '', done: 0 });
    next();
  }

  /** Has something else made of it, where it failed. */
  async function makeInstead(id: MakingId): Promise<void> {
    await running.get(id)!.work.instead!.order();
    await remove(id);
  }

  /** Puts what waits before all others that wait. */
  function hurry(id: MakingId): void {
    const making = found(id);
    list.value = [making, ...list.value.filter((one) => one !== making)];
  }

  /** Stops something and takes it off the list; what is kept of it stays. */
  function setDown(id: MakingId): Running {
    const run = running.get(id)!;
    const { url } = found(id);
    list.value = list.value.filter((one) => one.id !== id);
    running.delete(id);
    if (url) URL.revokeObjectURL(url);
    run.abort.abort(new DOMException('It was given up.', 'AbortError'));
    next();
    return run;
  }

  /** Gives something up, or puts away what was made. */
  async function remove(id: MakingId): Promise<void> {
    await setDown(id).work.discard?.();
  }

  /** What was made, under its name; `null` while it is not. */
  function fileOf(id: MakingId): File | null {
    const file = running.get(id)?.file;
    return file ? new File([file], found(id).name, { type: file.type }) : null;
  }

  const found = (id: MakingId): Making => list.value.find((one) => one.id === id)!;

  return { list, open, isStoodBack, of, fileOf, add, addMade, pause, goOn, again, makeInstead, hurry, setDown, remove };
});
