import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Segment } from '@kite-trail/core/trail/programme';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { programmeLength, takesIn } from '@kite-trail/core/trail/programme';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '../server/api';
import { toBase64 } from '../server/base64';
import { useAudition } from '../trail/audition';
import { LessonScope, useOtherwise } from './lesson-scope';
import { useLesson } from './lesson';
import { editionOf, madeLesson, madeTake } from '../testing/made-lesson';
import { useMicrophone } from '../record/microphone/microphone';
import { useStretch } from '../trail/stretch';
import { useTakes } from '../trail/takes';

const SECOND = 48_000;
const PAGE = 'page-one-of-us' as PageId;
const SECOND_PAGE = 'page-two-of-us' as PageId;
const id = (n: number) => `take-000${n}` as TakeId;
const summary = (n: number, more: object = {}) => madeTake(id(n), more);
const segment = (toSamples: number): Segment => ({ kind: 'play', take: id(1), fromSamples: 0, toSamples, pace: 1 });
const document = (more: object = {}): LessonDocument =>
  madeLesson([PAGE, SECOND_PAGE], { takes: [summary(1)], edition: editionOf([segment(10 * SECOND)]), ...more });

beforeEach(async () => {
  vi.spyOn(api, 'takeMarks').mockResolvedValue(
    encodeMarks([
      { kind: 'turn', page: PAGE, atSamples: 0 },
      { kind: 'turn', page: SECOND_PAGE, atSamples: 4 * SECOND },
    ]),
  );
  await useLesson().accept(document());
});

describe('a take that has just ended', () => {
  const take = { id: id(2), lengthSamples: SECOND, marks: [], sound: null };

  it('plays where it was planned to before the server has it, and what the server says meanwhile changes nothing', async () => {
    const lesson = useLesson();
    lesson.addTake(take, { kind: 'insert', atSamples: 2 * SECOND }, null);
    expect(lesson.programme.map((one) => one.take)).toEqual([id(1), id(2), id(1)]);
    expect(lesson.isWithServer).toBe(false);
    await lesson.accept(document());
    expect(lesson.programme.map((one) => one.take)).toEqual([id(1), id(2), id(1)]);
    const { programme } = lesson;
    await lesson.acceptTake(
      document({
        takes: [summary(1), summary(2, { lengthSamples: SECOND })],
        edition: editionOf(programme),
        edit: { n: 2, madeAt: '' },
      }),
      id(2),
    );
    expect(lesson.isWithServer).toBe(true);
    expect(lesson.programme).toBe(programme);
  });

  it('keeps what was changed since the last take for the next one that carries on', async () => {
    const lesson = useLesson();
    const between = toBase64(encodeMarks([{ kind: 'turn', page: SECOND_PAGE, atSamples: 0 }]));
    await lesson.accept(document({ between }));
    lesson.addTake(take, { kind: 'insert', atSamples: 0 }, null);
    expect(lesson.between).toHaveLength(1);
    lesson.addTake({ ...take, id: id(3) }, { kind: 'carry-on' }, null);
    expect(lesson.between).toHaveLength(0);
  });
});

describe('what the server says late', () => {
  it('loses no take that has ended meanwhile', async () => {
    const lesson = useLesson();
    const late = lesson.accept(document({ takes: [summary(1), summary(3)] }));
    lesson.addTake({ id: id(2), lengthSamples: SECOND, marks: [], sound: null }, { kind: 'carry-on' }, null);
    await late;
    expect([...lesson.takes.keys()].sort()).toEqual([id(1), id(2), id(3)]);
    expect(lesson.lengthSamples).toBe(11 * SECOND);
  });

  it('of another lesson is not shown in the one that is open', async () => {
    const left = useLesson();
    const late = left.accept(document({ id: 'lesson-of-tides' as LessonId, takes: [summary(7)] }));
    useOtherwise(new LessonScope());
    const open = useLesson();
    await open.accept(document());
    await late;
    expect(open.document!.id).toBe('lesson-of-knots');
    expect([...open.takes.keys()]).toEqual([id(1)]);
  });
});

describe('a stretch to be done over', () => {
  it('is chosen around a moment, by its page, or whole, and forgotten when the trail changes', async () => {
    const stretch = useStretch();
    stretch.choose(0);
    expect(stretch.ends).toEqual({ from: 0, to: 5 * SECOND });
    stretch.choosePagePart(10 * SECOND);
    expect(stretch.ends).toEqual({ from: 4 * SECOND, to: 10 * SECOND });
    expect(programmeLength(stretch.plan('retake').replaced)).toBe(6 * SECOND);
    stretch.chooseAll();
    expect(stretch.ends).toEqual({ from: 0, to: 10 * SECOND });
    await useLesson().accept(document({ edition: editionOf([segment(SECOND)]) }));
    expect(stretch.ends).toBeNull();
  });
});

describe('listening', () => {
  it('is to the trail, or to a take by itself until the trail changes', async () => {
    const audition = useAudition();
    audition.hearTake('Take 1', id(1));
    expect(audition.other?.name).toBe('Take 1');
    expect(audition.timeline?.end.shown).toBe(SECOND_PAGE);
    await useLesson().accept(document({ edition: editionOf([]) }));
    expect(audition.other).toBeNull();
    expect(audition.programme).toEqual([]);
  });
});

describe('the list of takes', () => {
  const two = { takes: [summary(1), summary(2, { name: 'Again' })] };

  it('has the newest first, with a name for each, and tells which play', async () => {
    await useLesson().accept(document(two));
    expect(useTakes().listed.map(({ name, plays }) => [name, plays])).toEqual([
      ['Again', false],
      ['Take 1', true],
    ]);
  });

  it('has no take in the trail that is in the bin', async () => {
    const lesson = useLesson();
    const edit = { n: 2, madeAt: '' };
    const bin = vi
      .spyOn(api, 'binTake')
      .mockResolvedValue(document({ edition: editionOf([]), edit, takes: [summary(1, { isBinned: true })] }));
    await useTakes().bin(id(1));
    expect(takesIn(lesson.programme).size).toBe(0);
    expect(bin).toHaveBeenCalledWith(id(1));
    expect(useTakes().binned.map(({ name }) => name)).toEqual(['Take 1']);
    // What is changed now begins the next take: something was recorded once.
    expect(lesson.isRecorded).toBe(true);
  });
});

describe('a microphone’s delay', () => {
  it('is kept for each microphone on this device, and survives nonsense in the device’s memory', () => {
    const microphone = useMicrophone();
    expect(microphone.settings.delayMs).toBe(0);
    microphone.keepDelay(42);
    microphone.deviceId = 'headset';
    expect(microphone.delayMs).toBeNull();
    microphone.keepDelay(7);
    expect(JSON.parse(localStorage.getItem('kite-trail-tap-delays')!)).toEqual({ '': 42, headset: 7 });
    microphone.keepDelay(null);
    expect(microphone.settings.delayMs).toBe(0);
  });
});
