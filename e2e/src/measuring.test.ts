import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { InstrumentPiece, Stroke } from '@kite-trail/core/lesson/piece';
import { PT_PER_CM } from '@kite-trail/core/measuring/instrument';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openLesson, piecesOn, takeMarks } from './support/lessons';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await classroom.makeLesson('Laying off a course');
});
afterAll(() => classroom?.close());

const strokes = async () => (await piecesOn(teacher)).filter((piece): piece is Stroke => piece.kind === 'stroke');
const instruments = async () =>
  (await piecesOn(teacher)).filter((piece): piece is InstrumentPiece => piece.kind === 'instrument');

/** Where a place of the page (960 × 540 points) is on the screen. */
async function onScreen(xPt: number, yPt: number): Promise<{ x: number; y: number }> {
  const { x, y, width, height } = await teacher.board();
  return { x: x + (xPt / 960) * width, y: y + (yPt / 540) * height };
}

/** A place as seen from the middle of a ruler, along it and across it. */
const beside = ({ frame: { xPt, yPt, turnRad } }: InstrumentPiece, alongPt: number, acrossPt: number) =>
  [
    xPt + Math.cos(turnRad) * alongPt - Math.sin(turnRad) * acrossPt,
    yPt + Math.sin(turnRad) * alongPt + Math.cos(turnRad) * acrossPt,
  ] as const;

async function layDown(name: string): Promise<void> {
  await teacher.press('Measure');
  await teacher.press(name);
  await teacher.press('Measure');
  await teacher.find('group', name);
}

describe('a ruler', () => {
  it('reads in the scale of its page', async () => {
    await teacher.press('Measure');
    await teacher.fill('Unit', 'km');
    const perCm = await teacher.page.waitForSelector('input[aria-label="A centimetre is"]');
    await perCm!.click({ count: 3 });
    await perCm!.type('2');
    await teacher.press('Set');
    await teacher.press('Measure');
    await expect.poll(async () => (await openLesson(teacher)).pages[0].page.scale).toEqual({ perCm: 2, unit: 'km' });
  });

  it('is turned and moved by two fingers', async () => {
    await layDown('Ruler');
    await expect.poll(async () => (await instruments()).length).toBe(1);
    const [{ frame: before }] = await instruments();
    const finger = (alongPt: number, turnRad: number, xPt = 0, yPt = 0) =>
      onScreen(before.xPt + xPt + Math.cos(turnRad) * alongPt, before.yPt + yPt + Math.sin(turnRad) * alongPt);
    await teacher.touch('touchStart', [await finger(-150, 0), await finger(150, 0)]);
    const turn = Math.PI / 6;
    for (const share of [0.25, 0.5, 0.75, 1]) {
      const both = [-150, 150].map((along) => finger(along, turn * share, 20 * share, -40 * share));
      await teacher.touch('touchMove', await Promise.all(both));
    }
    await teacher.touch('touchEnd', []);
    await expect.poll(async () => (await instruments())[0].frame.turnRad).toBeCloseTo(turn, 3);
    const [{ frame }] = await instruments();
    expect(frame.xPt - before.xPt).toBeCloseTo(20, 0);
    expect(frame.yPt - before.yPt).toBeCloseTo(-40, 0);
    expect(frame.widthPt).toBe(before.widthPt);
    await teacher.sees('330°');
  });

  it('leads the pen along its edge, and says how long the line is', async () => {
    const [ruler] = await instruments();
    const edgePt = ruler.frame.heightPt / 2;
    // A shaky hand, up to five points off the edge, for six centimetres.
    const steps = 24;
    const at = async (i: number) =>
      onScreen(...beside(ruler, -120 + (6 * PT_PER_CM * i) / steps, edgePt + 5 * Math.sin(i * 1.7)));
    const start = await at(0);
    await teacher.penAt('mousePressed', start.x, start.y, 0.5);
    for (let i = 1; i <= steps; i++) {
      const { x, y } = await at(i);
      await teacher.penAt('mouseMoved', x, y, 0.5);
    }
    const end = await at(steps);
    await teacher.penAt('mouseReleased', end.x, end.y, 0);
    await expect.poll(async () => (await strokes()).length).toBe(1);
    const [{ points }] = await strokes();
    const { xPt, yPt, turnRad } = ruler.frame;
    const off = Array.from(
      points.xPt,
      (x, i) => -(x - xPt) * Math.sin(turnRad) + (points.yPt[i] - yPt) * Math.cos(turnRad) - edgePt,
    );
    // Ink is kept on a grid of a 32nd of a point.
    expect(Math.max(...off.map(Math.abs))).toBeLessThan(0.04);
    const last = points.count - 1;
    const lengthCm = Math.hypot(points.xPt[last] - points.xPt[0], points.yPt[last] - points.yPt[0]) / PT_PER_CM;
    expect(lengthCm).toBeCloseTo(6, 1);
    await teacher.sees(/1[12]\.\d km/);
  });

  it('is recorded where it lies, moves in the recording, and can be kept out of it', async () => {
    await teacher.choose('Voice from', 'none');
    await teacher.press('Record this lesson');
    await teacher.sees('Recording');
    const ruler = await teacher.find('group', 'Ruler');
    await ruler.focus();
    for (let i = 0; i < 3; i++) await teacher.page.keyboard.press('ArrowDown');
    await teacher.press('Measure');
    await teacher.press('Viewers see them too', 'checkbox');
    await teacher.press('Measure');
    // Kept out, it still lies there for the teacher, who may move it.
    await (await teacher.find('group', 'Ruler')).focus();
    await teacher.page.keyboard.press('ArrowDown');
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    await expect.poll(async () => (await openLesson(teacher)).takes[0]?.ended).toBe(true);
    const marks = decodeMarks(await takeMarks(teacher));
    const about = marks.filter(({ kind }) => kind === 'alter' || kind === 'lift').map(({ kind }) => kind);
    expect(about).toEqual(['alter', 'alter', 'alter', 'lift']);
  });

  it('is no piece to be taken hold of, and put away it is gone', async () => {
    await teacher.press('Prepare');
    await teacher.find('group', 'Ruler');
    await teacher.press('Take hold');
    await teacher.press('Hold all');
    await teacher.find('group', 'Ink, held');
    await teacher.page.keyboard.press('Escape');
    await teacher.press('Put the ruler away');
    await teacher.isGone('group', 'Ruler');
  });
});

describe('compasses', () => {
  it('are opened by a grip and draw a circle about their point', async () => {
    await teacher.press('Night pen');
    await layDown('Compasses');
    const grip = (await (await teacher.find('button', 'Open the compasses')).boundingBox())!;
    const { mouse } = teacher.page;
    const { width } = await teacher.board();
    await mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
    await mouse.down();
    await mouse.move(grip.x + grip.width / 2 + (PT_PER_CM * width) / 960, grip.y + grip.height / 2, { steps: 4 });
    await mouse.up();
    await teacher.sees('r 10.0 km');
    // Their point stays where it was laid down: half their first opening of 4 cm left of the middle.
    const [pointX, pointY] = [480 - 2 * PT_PER_CM, 270];
    const at = (degrees: number, offPt: number) =>
      onScreen(
        pointX + Math.cos((degrees * Math.PI) / 180) * (5 * PT_PER_CM + offPt),
        pointY + Math.sin((degrees * Math.PI) / 180) * (5 * PT_PER_CM + offPt),
      );
    const start = await at(30, 3);
    await teacher.penAt('mousePressed', start.x, start.y, 0.5);
    for (let degrees = 40; degrees <= 120; degrees += 5) {
      const { x, y } = await at(degrees, 6 * Math.sin(degrees));
      await teacher.penAt('mouseMoved', x, y, 0.5);
    }
    const end = await at(120, 0);
    await teacher.penAt('mouseReleased', end.x, end.y, 0);
    await teacher.sees(/r 10\.0 km\s+90°/);
  });
});
