import { InkPoints } from '@kite-trail/core/ink/points';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { PageId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '../server/api';
import { editionOf, madeLesson, madeTake } from '../testing/made-lesson';
import { useChanges } from './changes';
import { useDesk } from './desk';
import { useLesson } from './lesson';
import { useRecordingNow } from './recording-now';

const [PAGE, OTHER] = ['page-one-of-us', 'page-two-of-us'] as PageId[];
const TAKE = 'take-of-knots' as TakeId;
let n = 0;
const ink = (): Change => ({
  kind: 'ink',
  page: PAGE,
  stroke: newStroke({
    id: `stroke-${n++}` as PieceId,
    z: n,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
    points: InkPoints.from([{ xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 }]),
  }),
});

beforeEach(() => {
  vi.spyOn(api, 'takeMarks').mockResolvedValue(encodeMarks([]));
});

async function opened(isRecorded: boolean) {
  const lesson = useLesson();
  const recorded = {
    takes: [madeTake(TAKE)],
    edition: editionOf([{ kind: 'play', take: TAKE, fromSamples: 0, toSamples: 480_000, pace: 1 }]),
  };
  await lesson.accept(madeLesson([PAGE, OTHER], isRecorded ? recorded : { edit: { n: 0, madeAt: '' } }));
  lesson.layDesk();
  return { lesson, desk: useDesk(), changes: useChanges(), recording: useRecordingNow() };
}

describe('what is done on the desk goes', () => {
  it('into the pages before anything is recorded; where one looks and turns is of no account', async () => {
    const { lesson, desk, changes } = await opened(false);
    expect(changes.destination).toBe('pages');
    desk.change(ink());
    desk.turnTo(OTHER);
    expect(lesson.base!.pages[0].pieces).toHaveLength(1);
    expect([lesson.base!.shown, lesson.between.length]).toEqual([PAGE, 0]);
  });

  it('into what begins the next take once something was recorded', async () => {
    const { lesson, desk, changes } = await opened(true);
    expect(changes.destination).toBe('next-take');
    desk.change(ink());
    desk.turnTo(OTHER);
    expect(lesson.base!.pages[0].pieces).toHaveLength(0);
    expect(lesson.between.map(({ kind, atSamples }) => [kind, atSamples])).toEqual([
      ['ink', 0],
      ['turn', 0],
    ]);
  });

  it('into the take that is recorded, with its time, and nowhere else', async () => {
    const { lesson, desk, changes, recording } = await opened(true);
    const marks: [string, number][] = [];
    recording.mark = (change, atMs) => marks.push([change.kind, atMs]);
    expect(changes.destination).toBe('take');
    desk.change(ink(), 1234);
    expect(marks).toEqual([['ink', 1234]]);
    expect([lesson.between.length, lesson.base!.pages[0].pieces.length]).toEqual([0, 0]);
    // What the school says meanwhile leaves the desk as it is.
    const { scene } = desk;
    lesson.layDesk();
    expect(desk.scene).toBe(scene);
    recording.mark = null;
    lesson.layDesk();
    expect(desk.scene).not.toBe(scene);
  });
});
