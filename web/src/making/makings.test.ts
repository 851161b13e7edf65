import type { LessonId } from '@kite-trail/core/lesson/ids';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { EncodingFailed } from '../workers/film/encoding-failed';
import type { Told } from '../workers/told';
import { newMakingId, useMakings, type Work } from './makings';

const LESSON = 'lesson-one' as LessonId;

/** Work of which the test says how it goes on. */
function work({ isLong = true, of = 'film' } = {}) {
  const told: Required<Told>[] = [];
  const settled: { resolve: (file: Blob) => void; reject: (error: Error) => void }[] = [];
  const discard = vi.fn(async () => {});
  const one: Work = {
    id: newMakingId(),
    lesson: LESSON,
    of,
    name: 'Knots.mp4',
    isLong,
    discard,
    make: (given) => {
      told.push(given);
      return new Promise((resolve, reject) => {
        settled.push({ resolve, reject });
        given.signal.addEventListener('abort', () => reject(given.signal.reason as Error));
      });
    },
  };
  return { one, told, settled, discard };
}

let makings: ReturnType<typeof useMakings>;
const states = () => makings.list.map(({ state }) => state);
const turn = () => new Promise((resolve) => setTimeout(resolve));

beforeEach(() => {
  setActivePinia(createPinia());
  makings = useMakings();
  const urls: string[] = [];
  vi.stubGlobal('URL', { createObjectURL: () => `blob:${urls.push('')}`, revokeObjectURL: vi.fn() });
});

describe('the queue', () => {
  it('makes long things one after the other, and what is quick beside them', async () => {
    const [first, second, quick] = [work(), work(), work({ isLong: false })];
    for (const { one } of [first, second, quick]) makings.add(one);
    expect(states()).toEqual(['making', 'waiting', 'making']);
    first.told[0].onDone(0.25);
    expect(makings.list[0].done).toBe(0.25);
    first.settled[0].resolve(new Blob(['film']));
    await turn();
    expect(states()).toEqual(['made', 'making', 'making']);
    expect(makings.list[0].url).toMatch(/^blob:/);
    expect(makings.of(LESSON, 'film')).toHaveLength(3);
    expect(makings.of('another' as LessonId)).toEqual([]);
  });

  it('lets the next one go on while one is paused, and goes on with it where it was, when its turn comes', async () => {
    const [first, second] = [work(), work()];
    makings.add(first.one);
    makings.add(second.one);
    makings.pause(first.one.id);
    expect([states(), first.told[0].gate.isHeld]).toEqual([['paused', 'making'], true]);
    makings.goOn(first.one.id);
    expect([states(), first.told[0].gate.isHeld]).toEqual([['waiting', 'making'], true]);
    second.settled[0].resolve(new Blob());
    await turn();
    expect([states(), first.told[0].gate.isHeld, first.told.length]).toEqual([['making', 'made'], false, 1]);
  });

  it('offers something else where a device’s encoder gives up, and nothing where it is something else', async () => {
    const [first, second] = [work(), work()];
    const order = vi.fn(async () => {});
    for (const { one } of [first, second]) makings.add({ ...one, instead: { offer: 'Make a WebM instead', order } });
    first.settled[0].reject(new EncodingFailed(null));
    await turn();
    second.settled[0].reject(new Error('The disk is full.'));
    await turn();
    expect(makings.list.map(({ state, instead }) => [state, instead])).toEqual([
      ['failed', 'Make a WebM instead'],
      ['failed', ''],
    ]);
    await makings.makeInstead(first.one.id);
    expect([order.mock.calls.length, makings.list.map(({ id }) => id)]).toEqual([1, [second.one.id]]);
    expect(first.discard).toHaveBeenCalled();
  });

  it('can be told what is next', async () => {
    const [first, second, third] = [work(), work(), work()];
    for (const { one } of [first, second, third]) makings.add(one);
    makings.hurry(third.one.id);
    first.settled[0].resolve(new Blob());
    await turn();
    expect([second.told.length, third.told.length]).toEqual([0, 1]);
  });

  it('stands back while somebody records, whoever begins, and what is paused stays so', async () => {
    const [first, second] = [work(), work()];
    makings.add(first.one);
    makings.isStoodBack = true;
    await turn();
    expect(first.told[0].gate.isHeld).toBe(true);
    first.settled[0].resolve(new Blob());
    makings.add(second.one);
    await turn();
    expect(second.told[0].gate.isHeld).toBe(true);
    makings.pause(second.one.id);
    makings.isStoodBack = false;
    await turn();
    expect(second.told[0].gate.isHeld).toBe(true);
    makings.goOn(second.one.id);
    expect(second.told[0].gate.isHeld).toBe(false);
  });

  it('tells why something failed, goes on with the next, and makes it again', async () => {
    const [first, second] = [work(), work()];
    makings.add(first.one);
    makings.add(second.one);
    first.settled[0].reject(new Error('the disk is full'));
    await turn();
    expect(states()).toEqual(['failed', 'making']);
    expect(makings.list[0].problem).toBe('It was not made: the disk is full');
    second.settled[0].resolve(new Blob());
    makings.again(first.one.id);
    await turn();
    expect([states(), makings.list[0].problem]).toEqual([['making', 'made'], '']);
  });

  it('gives up without a word, and removes what was kept', async () => {
    const { one, told, discard } = work();
    makings.add(one);
    await makings.remove(one.id);
    await turn();
    expect([makings.list, told[0].signal.aborted, discard.mock.calls.length]).toEqual([[], true, 1]);
  });

  it('sets down what goes on in another window, and keeps what there is of it', async () => {
    const { one, told, discard } = work();
    makings.add(one);
    makings.setDown(one.id);
    expect([makings.list, told[0].signal.aborted, discard.mock.calls.length]).toEqual([[], true, 0]);
  });

  it('tells how long it will take as soon as that can be told, and not while it is held', async () => {
    vi.spyOn(performance, 'now').mockReturnValue(0);
    const { one, told } = work();
    makings.add(one);
    told[0].onDone(0);
    told[0].onDone(0.01);
    expect(makings.list[0].secondsLeft).toBeNull();
    vi.spyOn(performance, 'now').mockReturnValue(10_000);
    told[0].onDone(0.1);
    expect(makings.list[0].secondsLeft).toBe(90);
    makings.pause(one.id);
    told[0].onDone(0.11);
    expect(makings.list[0].secondsLeft).toBeNull();
    vi.restoreAllMocks();
  });

  it('shows what was made before, and hands it on by its name', async () => {
    const { one } = work();
    makings.addMade(one, new Blob(['film'], { type: 'video/mp4' }));
    expect([states(), makings.open]).toEqual([['made'], []]);
    const file = makings.fileOf(one.id)!;
    expect([file.name, file.type, await file.text()]).toEqual(['Knots.mp4', 'video/mp4', 'film']);
    const waiting = work();
    makings.add(waiting.one);
    expect(makings.fileOf(waiting.one.id)).toBeNull();
  });
});
