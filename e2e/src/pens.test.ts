import { decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import type { InkPoints } from '@kite-trail/core/ink/points';
import { sceneOf } from '@kite-trail/core/lesson/scene';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { remainingShare } from '@kite-trail/core/trail/passing';
import { Timeline } from '@kite-trail/core/trail/timeline';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openLesson, takeMarks } from './support/lessons';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await classroom.makeLesson('Knots');
});
afterAll(() => classroom?.close());

const strokes = async (): Promise<Stroke[]> => {
  const { pages } = await openLesson(teacher);
  return decodePieces(Buffer.from(pages[0].pieces, 'base64')).filter((piece) => piece.kind === 'stroke');
};

describe('the pen roll', () => {
  it('changes the pen that is held, and is the teacher’s in every lesson', async () => {
    await teacher.press('Kite red pen');
    await teacher.press('Kite red pen');
    await teacher.press('Fountain pen');
    await teacher.press('Plum');
    await teacher.press('Broad width');
    // The page beside what is open: a touch there closes it, and writes.
    await teacher.stroke([0.6, 0.3], [0.9, 0.4]);
    await expect
      .poll(async () => (await strokes()).map(({ pen }) => pen))
      .toEqual([{ kind: 'fountain', color: '#7a3e8e', widthPt: 5 }]);
    await expect
      .poll(async () => (await teacher.request<{ roll: unknown[] }>('GET', '/pens')).roll?.[1])
      .toEqual({ kind: 'fountain', color: '#7a3e8e', widthPt: 5 });
    await classroom.makeLesson('Splices');
    await teacher.find('button', 'Plum fountain pen');
  });

  it('takes in another pen, and gives it up again', async () => {
    await teacher.press('Sea pen');
    await teacher.press('Add a pen');
    await expect.poll(async () => (await teacher.page.$$('::-p-aria([name="Sea pen"])')).length).toBe(2);
    await teacher.press('Sea pen');
    await teacher.page.$$('::-p-aria([name="Sea pen"])').then((both) => both[1].click());
    await teacher.page.$$('::-p-aria([name="Sea pen"])').then((both) => both[1].click());
    await teacher.press('Take it out of the roll');
    await expect.poll(async () => (await teacher.page.$$('::-p-aria([name="Sea pen"])')).length).toBe(1);
  });
});

describe('the eraser', () => {
  it('rubs out only what it passes over, and one undo brings it back', async () => {
    await classroom.makeLesson('Bends');
    await teacher.stroke([0.1, 0.5], [0.9, 0.5]);
    await expect.poll(async () => (await strokes()).length).toBe(1);
    const [whole] = await strokes();
    await teacher.press('Eraser');
    await teacher.press('Eraser');
    await teacher.press('Only what it rubs over', 'radio');
    await teacher.stroke([0.5, 0.3], [0.5, 0.7]);
    await expect.poll(async () => (await strokes()).length).toBe(2);
    const [left, right] = await strokes();
    // The medium eraser, and half the pen's width, to either side of the page's middle.
    expect(left.points.xPt.at(-1)).toBeCloseTo(480 - 10.4, 0);
    expect(right.points.xPt[0]).toBeCloseTo(480 + 10.4, 0);
    await teacher.press('Undo');
    await expect.poll(async () => (await strokes()).map(({ id }) => id)).toEqual([whole.id]);
  });

  it('takes all ink of the page in one act', async () => {
    await teacher.press('Eraser');
    await teacher.press('Eraser');
    await teacher.press('Erase all ink on this page');
    await expect.poll(async () => (await strokes()).length).toBe(0);
    await teacher.press('Undo');
    await expect.poll(async () => (await strokes()).length).toBe(1);
  });
});

describe('a recording', () => {
  it('keeps rubbing and fading ink as they happened', async () => {
    await teacher.choose('Voice from', 'none');
    await teacher.press('Record this lesson');
    await teacher.sees('Recording');
    await teacher.press('Eraser');
    await teacher.stroke([0.3, 0.3], [0.3, 0.7]);
    await teacher.press('Channel blue pen');
    await teacher.press('Channel blue pen');
    await teacher.sees('Paused');
    await teacher.press('Fading ink');
    await teacher.press('Resume');
    await teacher.sees('Recording');
    await teacher.stroke([0.6, 0.2], [0.8, 0.2]);
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    await expect.poll(async () => (await openLesson(teacher)).takes[0]?.ended).toBe(true);
    const marks = decodeMarks(await takeMarks(teacher));
    const blank = wideSquaredPage((await openLesson(teacher)).pages[0].page.id);
    const kinds = marks.map(({ kind }) => kind);
    // Rubbed in some steps; then the ink that fades, which leaves nothing on the page.
    expect(kinds.slice(0, 3)).toEqual(['turn', 'lift', 'place']);
    const ink = marks.at(-1)!;
    expect(ink.kind === 'ink' && ink.stroke.pen.kind).toBe('fading');
    const timeline = new Timeline(sceneOf([{ page: blank, pieces: [] }]), { lengthSamples: 1e9, marks: [ink] });
    const seenAfter = (ms: number) => timeline.at(ink.atSamples + ms * 48).passing.map(remainingShare);
    const { lengthMs } = (ink.kind === 'ink' && ink.stroke.points) as InkPoints;
    expect(seenAfter(lengthMs + 2900)).toEqual([1]);
    expect(seenAfter(lengthMs + 3350)[0]).toBeCloseTo(0.5, 1);
    expect(seenAfter(lengthMs + 3800)).toEqual([]);
    expect(timeline.end.pages[0].pieces).toEqual([]);
  });
});

describe('a hand beside the pen', () => {
  it('moves the page with a finger, and its palm does nothing while the pen writes', async () => {
    await classroom.makeLesson('Palms');
    await teacher.stroke([0.6, 0.2], [0.9, 0.2]);
    await expect.poll(async () => (await strokes()).length).toBe(1);
    for (let n = 0; n < 3; n++) await teacher.press('Larger');
    const { x, y, width, height } = await teacher.board();
    const at = (u: number, v: number) => ({ x: x + u * width, y: y + v * height });
    await teacher.penAt('mousePressed', at(0.6, 0.5).x, at(0.6, 0.5).y, 0.5);
    // The palm comes down beside the pen, and shifts.
    await teacher.touch('touchStart', [at(0.8, 0.8)]);
    await teacher.touch('touchMove', [at(0.7, 0.7)]);
    await teacher.penAt('mouseMoved', at(0.8, 0.5).x, at(0.8, 0.5).y, 0.5);
    await teacher.touch('touchEnd', []);
    await teacher.penAt('mouseReleased', at(0.8, 0.5).x, at(0.8, 0.5).y, 0);
    await expect.poll(async () => (await strokes()).length).toBe(2);
    const [, beside] = await strokes();
    // Seen 1.95 times as large about the middle of the page, which has not moved.
    expect(beside.points.xPt[0]).toBeCloseTo(480 + (0.1 * 960) / 1.25 ** 3, -1);
    await teacher.touch('touchStart', [at(0.5, 0.5)]);
    await teacher.touch('touchMove', [at(0.6, 0.5)]);
    await teacher.touch('touchEnd', []);
    await teacher.stroke([0.6, 0.7], [0.8, 0.7]);
    await expect.poll(async () => (await strokes()).length).toBe(3);
    // A tenth of the page to the right: the same place on the screen is the page's middle now.
    expect((await strokes())[2].points.xPt[0]).toBeCloseTo(480, -1);
  });

  it('rubs out with a palm, where that is switched on', async () => {
    await teacher.press('All of the page');
    await teacher.press('Eraser');
    await teacher.press('Eraser');
    await teacher.press('A palm or fist laid on the page rubs out (panels)', 'checkbox');
    await teacher.press('Night pen');
    const had = (await strokes()).length;
    await teacher.stroke([0.2, 0.8], [0.6, 0.8]);
    await expect.poll(async () => (await strokes()).length).toBe(had + 1);
    const { x, y, width, height } = await teacher.board();
    const palm = (u: number) => ({ x: x + u * width, y: y + 0.8 * height, radiusX: 45, radiusY: 40 });
    await teacher.touch('touchStart', [palm(0.4)]);
    await teacher.touch('touchMove', [palm(0.41)]);
    await teacher.touch('touchEnd', []);
    // The stroke is in two parts now: what was under the palm has gone.
    await expect.poll(async () => (await strokes()).length).toBe(had + 2);
    await teacher.press('Undo');
    await expect.poll(async () => (await strokes()).length).toBe(had + 1);
  });

  it('calls the tools to itself by a touch of two fingers, and writes with what it takes there', async () => {
    const { x, y, width, height } = await teacher.board();
    const [one, other] = [
      { x: x + 0.6 * width, y: y + 0.3 * height, id: 1 },
      { x: x + 0.65 * width, y: y + 0.3 * height, id: 2 },
    ];
    await teacher.touch('touchStart', [one]);
    await teacher.touch('touchStart', [one, other]);
    await teacher.touch('touchEnd', []);
    const tools = await teacher.find('region', 'Tools at the hand');
    const box = (await tools.boundingBox())!;
    expect(Math.abs(box.x - other.x)).toBeLessThan(60);
    await (await tools.waitForSelector('aria/Sea pen'))!.click();
    await teacher.stroke([0.2, 0.9], [0.3, 0.9]);
    await teacher.isGone('region', 'Tools at the hand');
    await expect.poll(async () => (await strokes()).at(-1)?.pen.color).toBe('#12776f');
  });
});
