import type { Stroke } from '@kite-trail/core/lesson/piece';
import { createCanvas } from '@napi-rs/canvas';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openLesson, picturesOf, piecesOn } from './support/lessons';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await classroom.makeLesson('Knots');
});
afterAll(() => classroom?.close());

const strokes = async () => (await piecesOn(teacher)).filter((piece): piece is Stroke => piece.kind === 'stroke');

describe('a classroom panel', () => {
  it('is written on by two at once', async () => {
    const { x, y, width, height } = await teacher.board();
    const one = (i: number) => ({ x: x + (0.1 + i * 0.02) * width, y: y + 0.3 * height, id: 0 });
    const other = (i: number) => ({ x: x + (0.6 + i * 0.02) * width, y: y + 0.7 * height, id: 1 });
    await teacher.touch('touchStart', [one(0)]);
    for (let i = 1; i <= 3; i++) await teacher.touch('touchMove', [one(i)]);
    // The first is under way: the second is another hand, not one that means to move the page.
    await teacher.touch('touchStart', [one(3), other(0)]);
    for (let i = 1; i <= 6; i++) await teacher.touch('touchMove', [one(3 + i), other(i)]);
    await teacher.touch('touchEnd', []);
    await expect.poll(async () => (await strokes()).length).toBe(2);
    const spans = (await strokes()).map(({ points }) => [points.xPt[0], points.xPt[points.count - 1]].map(Math.round));
    expect(spans.sort(([a], [b]) => a - b)).toEqual([
      [96, 269],
      [576, 691],
    ]);
  });
});

describe('the side button of a pen', () => {
  it('rubs out, whatever pen is in the hand', async () => {
    const { x, y, width, height } = await teacher.board();
    const at = (u: number, v: number) => [x + u * width, y + v * height] as const;
    await teacher.penAt('mousePressed', ...at(0.2, 0.25), 0.5, 'right');
    for (let i = 1; i <= 5; i++) await teacher.penAt('mouseMoved', ...at(0.2, 0.25 + i * 0.02), 0.5, 'right');
    await teacher.penAt('mouseReleased', ...at(0.2, 0.35), 0, 'right');
    await expect.poll(async () => (await strokes()).map(({ points }) => Math.round(points.xPt[0]))).toEqual([576]);
    await teacher.press('Undo');
    await expect.poll(async () => (await strokes()).length).toBe(2);
  });
});

describe('taking hold', () => {
  it('takes what lies within a box that is drawn', async () => {
    await teacher.press('Take hold');
    await teacher.press('Draw a box');
    await teacher.drag([0.05, 0.2], [0.4, 0.4]);
    await teacher.find('group', 'Ink, held');
    await teacher.press('Remove');
    await expect.poll(async () => (await strokes()).map(({ points }) => Math.round(points.xPt[0]))).toEqual([576]);
    await teacher.press('Draw a loop');
  });

  it('lines things up, and mirrors them, each as one step', async () => {
    await teacher.press('Night pen');
    await teacher.stroke([0.2, 0.2], [0.3, 0.2]);
    await teacher.stroke([0.3, 0.45], [0.4, 0.45]);
    await teacher.press('Take hold');
    await teacher.press('Hold all');
    await teacher.press('Arrange');
    await teacher.press('Align left');
    const lefts = async () =>
      (await strokes()).map(({ points, matrix }) => Math.round(Math.min(...points.xPt) + (matrix?.[4] ?? 0)));
    await expect.poll(async () => new Set(await lefts()).size).toBe(1);
    await teacher.press('Undo');
    await expect.poll(async () => new Set(await lefts()).size).toBe(3);
    await teacher.press('Arrange');
    await teacher.press('Mirror');
    await expect.poll(async () => (await strokes()).map(({ matrix }) => matrix?.[0])).toEqual([-1, -1, -1]);
    await teacher.press('Remove');
  });

  it('copies a picture into another lesson, with its file', async () => {
    const canvas = createCanvas(80, 60);
    const surface = canvas.getContext('2d');
    surface.fillStyle = '#12776f';
    surface.fillRect(0, 0, 80, 60);
    await teacher.paste('buoy.png', 'image/png', canvas.toBuffer('image/png'));
    await teacher.find('group', 'Picture, held');
    await teacher.sees('Saved');
    await teacher.press('Copy');
    await classroom.makeLesson('Knots, second part');
    await teacher.press('Take hold');
    await teacher.press('Paste');
    await teacher.find('group', 'Picture, held');
    await expect.poll(async () => picturesOf(await openLesson(teacher), 0).length).toBe(1);
    const { id, ...lesson } = await openLesson(teacher);
    const [{ asset }] = picturesOf({ id, ...lesson }, 0);
    const status = await teacher.page.evaluate(
      async (path) => (await fetch(path)).status,
      `/api/lessons/${id}/assets/${asset}`,
    );
    expect(status).toBe(200);
  });
});
