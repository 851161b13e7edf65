import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { heardSamples, joinHeard, NOTHING_HEARD, profileOf, type HeardVoice } from '@kite-trail/core/sound/profile';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '../server/api';
import { atSchool } from '../testing/at-school';
import { profileWorkers } from '../testing/profile-workers';
import type { ProfileTask } from '../workers/sound/profile.worker';
import { useLesson } from './lesson';
import { editionOf, madeLesson, madeTake } from '../testing/made-lesson';
import { useVoices } from './voices';

vi.mock('../workers/sound/profile.worker?worker', async () => ({
  default: (await import('../testing/profile-workers')).ProfileWorkerStandIn,
}));

const MINUTE = 60 * 48_000;
const TAKE = 'take-of-knots' as TakeId;
const LENGTH = 4.5 * MINUTE;
const BYTES = Uint8Array.of(1, 2, 3);

/** So many minutes of a voice. */
const minutes = (count: number): HeardVoice => ({
  ...NOTHING_HEARD,
  peaks: new Uint8Array(count * 60 * 400).fill(100),
  energies: new Float32Array(count * 60 * 100),
});

/** Listens as the workers do: to as much as there is. */
const lengthOf = ({ part }: { part: { fromSamples: number; toSamples: number } }) =>
  (Math.min(LENGTH, part.toSamples) - part.fromSamples) / MINUTE;

let kept: HeardVoice | null;
function answer(task: ProfileTask): object | null {
  if ('kept' in task) return kept;
  if ('sound' in task) return minutes(lengthOf(task));
  return { profile: profileOf(joinHeard(task.heard)), bytes: BYTES };
}

const listenedTo = () => profileWorkers.tasks.flatMap((task) => ('sound' in task ? [task.part] : []));
const heardMinutes = () => (useVoices().profileOfTake(TAKE)?.peaks.length ?? 0) / (60 * 400);

/** Opens a lesson with the take, and waits until its voice is known. */
async function open(hasProfile: boolean): Promise<void> {
  const take = madeTake(TAKE, { lengthSamples: LENGTH, hasSound: true, sound: 'b'.repeat(64), hasProfile });
  const edition = editionOf([{ kind: 'play', take: TAKE, fromSamples: 0, toSamples: LENGTH, pace: 1 }]);
  await useLesson().accept(madeLesson(['page-of-knots' as PageId], { takes: [take], edition }));
  await useVoices().served(useLesson().programme);
}

const sent: unknown[] = [];

beforeEach(async () => {
  vi.stubGlobal('location', { href: 'http://school.example/lesson/lesson-of-knots' });
  vi.stubGlobal('navigator', { hardwareConcurrency: 2 });
  vi.spyOn(api, 'takeMarks').mockResolvedValue(encodeMarks([]));
  sent.length = 0;
  await atSchool(async ({ head }, payload) => {
    if (head.kind === 'profile') sent.push([head.take, payload]);
    return { to: 'other' };
  });
  Object.assign(profileWorkers, { tasks: [], answer });
  kept = null;
});

describe('a voice', () => {
  it('that nobody has listened to is listened to once, side by side, and then kept', async () => {
    await open(false);
    expect(listenedTo()).toEqual([
      { fromSamples: 0, toSamples: 3 * MINUTE },
      { fromSamples: 3 * MINUTE, toSamples: Infinity },
    ]);
    expect(heardMinutes()).toBe(4.5);
    await expect.poll(() => sent).toEqual([[TAKE, BYTES]]);
  });

  it('that is known is not listened to again', async () => {
    kept = minutes(4.5);
    await open(true);
    expect(listenedTo()).toEqual([]);
    expect(heardMinutes()).toBe(4.5);
    expect(sent).toEqual([]);
  });

  it('of a recording that broke off is listened to from where that is not known', async () => {
    kept = minutes(4);
    await open(true);
    expect(listenedTo()).toEqual([{ fromSamples: 4 * MINUTE, toSamples: Infinity }]);
    expect(heardMinutes()).toBe(4.5);
    await expect.poll(() => sent).toEqual([[TAKE, BYTES]]);
  });

  it('of which what was kept is lost is listened to all over', async () => {
    await open(true);
    expect(listenedTo()).toHaveLength(2);
    expect(heardMinutes()).toBe(4.5);
  });

  it('that cannot be read is silent from there on, and is listened to again at the next visit', async () => {
    profileWorkers.answer = (task) => ('sound' in task && task.part.fromSamples === 0 ? null : answer(task));
    await open(false);
    expect(heardMinutes()).toBe(0);
    expect(useVoices().isListening).toBe(false);
    expect(sent).toEqual([]);
  });

  it('that was heard while it was recorded is only put together', async () => {
    const take = { id: TAKE, lengthSamples: LENGTH, marks: [], sound: null };
    await useLesson().accept(madeLesson(['page-of-knots' as PageId], {}));
    vi.spyOn(URL, 'createObjectURL').mockReturnValue('blob:knots');
    const voices = useVoices();
    useLesson().addTake(take, { kind: 'carry-on' }, new Blob([BYTES]));
    voices.know(TAKE, minutes(4.5));
    await voices.served(useLesson().programme);
    expect(profileWorkers.tasks.map((task) => Object.keys(task))).toEqual([['heard']]);
    expect(heardMinutes()).toBe(4.5);
    expect(heardSamples(minutes(4.5))).toBe(LENGTH);
    expect(sent).toEqual([]);
  });
});
