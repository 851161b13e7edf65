import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Template } from '@kite-trail/core/contract/template';
import { decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import { createCanvas } from '@napi-rs/canvas';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { bytesAt, colorAt, openLesson, picturesOf, takeMarks } from './support/lessons';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await classroom.makeLesson('Trade winds');
});
afterAll(() => classroom?.close());

const pages = async () => (await openLesson(teacher)).pages.map(({ page }) => page);
const templates = () => teacher.request<Template[]>('GET', '/templates');

/** How many of the page's pixels are much darker than its paper. */
const darkShare = () =>
  teacher.page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas.settled')!;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    let count = 0;
    for (let i = 0; i < data.length; i += 4) if (data[i] < 160) count++;
    return count / (data.length / 4);
  });

describe('papers with something printed on them', () => {
  it('are a blank map of a part of the world', async () => {
    await teacher.press('Paper');
    await teacher.choose('Printed on it', 'south-america');
    await teacher.press('Use for this page');
    await expect.poll(async () => (await pages())[0].paper.picture).toMatch(/^[0-9a-f]{64}$/);
    await expect.poll(darkShare).toBeGreaterThan(0.002);
    expect(await darkShare()).toBeLessThan(0.1);
  });

  it('are a picture of the teacher’s own, whole and in the middle, also on all pages', async () => {
    const square = createCanvas(300, 300);
    const surface = square.getContext('2d');
    surface.fillStyle = '#20a040';
    surface.fillRect(0, 0, 300, 300);
    const file = join(mkdtempSync(join(tmpdir(), 'kite-trail-paper-')), 'green.png');
    writeFileSync(file, square.toBuffer('image/png'));
    await teacher.press('Add a page');
    await teacher.press('Paper');
    await teacher.upload('Picture for the paper', file);
    await expect.poll(() => teacher.valueOf('combobox', 'Printed on it')).toBe('picture');
    await teacher.press('Use for all pages');
    const map = (await pages())[0].paper.picture;
    await expect
      .poll(async () => (await pages()).map(({ paper }) => paper.picture !== map && paper.picture !== null))
      .toEqual([true, true]);
    // A square on a 16:9 page leaves 22 % free on either side.
    await expect.poll(async () => (await colorAt(teacher, 0.5, 0.5))[1]).toBeLessThan(200);
    expect((await colorAt(teacher, 0.25, 0.5))[0]).toBeLessThan(90);
    expect((await colorAt(teacher, 0.2, 0.5))[0]).toBeGreaterThan(240);
    await teacher.press('Undo');
    // The page that was added had come on the paper of the one before.
    await expect.poll(async () => (await pages()).map(({ paper }) => paper.picture)).toEqual([map, map]);
  });
});

describe('a page', () => {
  it('stands for its lesson where its teacher says so, and another one later', async () => {
    const cover = async () => (await openLesson(teacher)).about.coverPage;
    expect(await cover()).toBe(null);
    for (const n of [2, 1]) {
      await teacher.press(`Page ${n}: more`);
      await teacher.pick('Let it stand for the lesson');
      await expect.poll(cover).toBe((await pages())[n - 1].id);
    }
  });
});

describe('page templates', () => {
  it('are kept from a prepared page, with its paper and its ink', async () => {
    await teacher.press('Page 1');
    await teacher.stroke([0.2, 0.2], [0.8, 0.3]);
    await teacher.press('Page 1: more');
    await teacher.pick('Keep as a template…');
    await teacher.fill('Name of the template', 'Map to fill in');
    await teacher.press('Keep it');
    await teacher.sees('“Map to fill in” is among your page templates now.');
    expect((await templates()).map(({ name }) => name)).toEqual(['Map to fill in']);
  });

  it('start pages of another lesson, also in the middle of a recording, which pauses for the choice', async () => {
    await classroom.makeLesson('Currents');
    await teacher.choose('Voice from', 'none');
    await teacher.press('Record this lesson');
    await teacher.sees('Recording');
    await teacher.press('From a template');
    await teacher.sees('Paused');
    await teacher.press('Start a page from Map to fill in');
    await teacher.find('button', 'Page 2');
    await teacher.press('Resume');
    await teacher.sees('Recording');
    await expect.poll(darkShare).toBeGreaterThan(0.002);
    await teacher.press('Stop');
    await expect.poll(async () => (await openLesson(teacher)).takes[0]?.ended).toBe(true);
    const marks = decodeMarks(await takeMarks(teacher));
    expect(marks.map(({ kind }) => kind)).toEqual(['turn', 'add-page', 'place', 'turn']);
    const [, added, placed] = marks;
    const [template] = await templates();
    expect(added.kind === 'add-page' && added.page.paper).toEqual(template.page.paper);
    const copied = decodePieces(await bytesAt(teacher, `/templates/${template.id}/pieces`));
    expect(placed.kind === 'place' && placed.pieces.map(({ z }) => z)).toEqual(copied.map(({ z }) => z));
  });

  it('can be deleted, and pages started from them stay', async () => {
    await classroom.makeLesson('Tidal streams');
    await teacher.press('From a template');
    await teacher.press('Delete Map to fill in');
    await teacher.press('Delete');
    await teacher.sees('None yet.');
    expect(await templates()).toEqual([]);
    await teacher.page.keyboard.press('Escape');
  });
});

describe('looking closer', () => {
  const shownZoom = async () => (await (await teacher.find('status', 'Size')).evaluate((e) => e.textContent))!;
  const lastStroke = async () => {
    const { pieces } = (await openLesson(teacher)).pages[0];
    const stroke = decodePieces(Buffer.from(pieces, 'base64')).findLast((piece) => piece.kind === 'stroke')!;
    return { from: stroke.points.xPt[0], to: stroke.points.xPt.at(-1)! };
  };

  it('writes where the pen is, on a page seen larger', async () => {
    await classroom.makeLesson('Small print');
    await teacher.stroke([0.25, 0.5], [0.75, 0.5]);
    await expect.poll(async () => (await lastStroke()).to).toBeCloseTo(720, -1);
    for (let n = 0; n < 3; n++) await teacher.press('Larger');
    expect(await shownZoom()).toContain('195 %');
    await teacher.stroke([0.25, 0.4], [0.75, 0.4]);
    // About the page's middle (480 pt), a quarter of what is seen now lies half as far away.
    const seenPt = 960 / 1.25 ** 3;
    await expect.poll(async () => (await lastStroke()).from).toBeCloseTo(480 - seenPt / 4, -1);
    expect((await lastStroke()).to).toBeCloseTo(480 + seenPt / 4, -1);
    await teacher.press('All of the page');
    expect(await shownZoom()).toContain('100 %');
  });

  it('enlarges with two fingers that come down together, which write nothing', async () => {
    const { x, y, width, height } = await teacher.board();
    const [one, other] = [
      { x: x + width * 0.45, y: y + height / 2 },
      { x: x + width * 0.55, y: y + height / 2 },
    ];
    await teacher.touch('touchStart', [one]);
    await teacher.touch('touchStart', [one, other]);
    for (let n = 1; n <= 5; n++) {
      const apart = n * width * 0.01;
      await teacher.touch('touchMove', [
        { ...one, x: one.x - apart },
        { ...other, x: other.x + apart },
      ]);
    }
    await teacher.touch('touchEnd', []);
    await expect.poll(shownZoom).toContain('200 %');
    await teacher.sees('Saved');
    const { pieces } = (await openLesson(teacher)).pages[0];
    expect(decodePieces(Buffer.from(pieces, 'base64'))).toHaveLength(2);
    await teacher.page.keyboard.press('0');
    await expect.poll(shownZoom).toContain('100 %');
  });

  it('lets a page grow downwards as it is written full, and takes ink and growth back together', async () => {
    await teacher.press('Size and room');
    await teacher.press('Pages of this lesson grow downwards while I write', 'checkbox');
    const { width } = await teacher.board();
    await teacher.stroke([0.3, 0.93], [0.6, 0.93]);
    await expect.poll(async () => (await pages())[0].heightPt).toBe(810);
    // The page is half as high again, and seen as large as before.
    expect((await teacher.board()).width).toBeCloseTo(width, -1);
    expect(await shownZoom()).toContain('100 %');
    await teacher.press('Undo');
    await expect.poll(async () => (await pages())[0].heightPt).toBe(540);
    await expect.poll(async () => (await lastStroke()).from).toBeCloseTo(480 - 960 / 1.25 ** 3 / 4, -1);
  });

  it('goes to a page by its number, typed', async () => {
    for (let n = 2; n <= 4; n++) await teacher.press('Add a page');
    await teacher.page.keyboard.press('2');
    await expect.poll(() => teacher.valueOf('textbox', 'Page number, of 4')).toBe('2');
    await teacher.press('Last page');
    await expect.poll(() => teacher.valueOf('textbox', 'Page number, of 4')).toBe('4');
    await teacher.press('First page');
    // Beyond the last page is the last one.
    await teacher.fill('Page number, of 4', '99');
    await teacher.page.keyboard.press('Enter');
    await expect.poll(() => teacher.page.$eval('[aria-current=page]', (leaf) => leaf.ariaLabel)).toBe('Page 4');
    await teacher.press('First page');
    await expect.poll(() => teacher.page.$eval('[aria-current=page]', (leaf) => leaf.ariaLabel)).toBe('Page 1');
  });
});

describe('the small pictures of pages', () => {
  const pixelsPerPixel = () =>
    teacher.page.$eval('[aria-label="Page 1"] canvas', (canvas) => canvas.width / canvas.clientWidth);

  it('are as fine as the screen, also when it is turned', async () => {
    await expect.poll(pixelsPerPixel).toBeCloseTo(1, 1);
    await teacher.page.setViewport({ width: 600, height: 900 });
    await expect.poll(pixelsPerPixel).toBeCloseTo(1, 1);
    await teacher.page.setViewport({ width: 1280, height: 800 });
    await expect.poll(pixelsPerPixel).toBeCloseTo(1, 1);
  });
});

describe('the camera', () => {
  it('has shipped pictures to serve where there is none', async () => {
    await teacher.press('Camera');
    await teacher.sees('There is no camera here');
    await teacher.press('A harbour on the chart');
    await expect.poll(async () => picturesOf(await openLesson(teacher), 0).length).toBe(1);
    await teacher.find('toolbar', 'Picture');
  });
});
