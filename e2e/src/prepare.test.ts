import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import { createCanvas } from '@napi-rs/canvas';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { colorAt, openLesson, picturesOf, takeMarks } from './support/lessons';

const WORKSHEET = fileURLToPath(new URL('../../demo/worksheet/heights-of-tide.pdf', import.meta.url));

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
});
afterAll(() => classroom?.close());

/** A red picture with a green right half. */
function halves(): Buffer {
  const canvas = createCanvas(400, 200);
  const surface = canvas.getContext('2d');
  surface.fillStyle = '#c02020';
  surface.fillRect(0, 0, 400, 200);
  surface.fillStyle = '#20a040';
  surface.fillRect(200, 0, 200, 200);
  return canvas.toBuffer('image/png');
}

const saved = (): Promise<LessonDocument> => openLesson(teacher);
const shownPicture = async () => picturesOf(await saved(), 0).at(-1)!;
const shownAt = (u: number, v: number) => colorAt(teacher, u, v);

/** Drags the crop handle in the middle of the right side by a share of the page's width. */
async function dragRightCropHandle(byU: number): Promise<void> {
  await teacher.page.waitForSelector('.moveable-clip-control', { visible: true });
  const handles = await teacher.page.$$('.moveable-clip-control');
  const boxes = (await Promise.all(handles.map((handle) => handle.boundingBox()))).map((box) => box!);
  const middleY = boxes.reduce((sum, box) => sum + box.y, 0) / boxes.length;
  const rightmost = Math.max(...boxes.map((box) => box.x));
  const side = boxes.find((box) => box.x > rightmost - 4 && Math.abs(box.y - middleY) < 8)!;
  const { width } = await teacher.board();
  const { mouse } = teacher.page;
  await mouse.move(side.x + side.width / 2, side.y + side.height / 2);
  await mouse.down();
  await mouse.move(side.x + side.width / 2 + byU * width, side.y + side.height / 2, { steps: 8 });
  await mouse.up();
}

const isRed = ([r, g]: number[]) => r > 150 && g < 90;
const isGreen = ([r, g]: number[]) => g > 120 && r < 90;
const isPaper = ([r, g, b]: number[]) => r > 240 && g > 240 && b > 235;

describe('preparing a lesson', () => {
  it('makes a lesson of a PDF that is dropped on Home, of the pages that are chosen', async () => {
    await teacher.drop('main', 'heights-of-tide.pdf', 'application/pdf', readFileSync(WORKSHEET));
    await teacher.press('PDF page 2', 'checkbox');
    await teacher.press('Add 2 pages');
    await expect.poll(async () => (await saved()).pages.length).toBe(2);
    const [first, third] = (await saved()).pages.map(({ page }) => page);
    expect([first.sheet!.pageIndex, third.sheet!.pageIndex]).toEqual([0, 2]);
    // A4, as the file says.
    expect(first.widthPt).toBeCloseTo(595.28, 1);
    expect(first.heightPt).toBeCloseTo(841.89, 1);
    await teacher.sees('Saved');
    expect((await saved()).title).toBe('heights-of-tide');
  });

  it('shows the PDF’s page, crisp and upright', async () => {
    // The heading's ink, left of the middle at the top, and white beside it.
    await expect
      .poll(async () => {
        const dark = await teacher.page.evaluate(() => {
          const canvas = document.querySelector<HTMLCanvasElement>('canvas.settled')!;
          const { width, height } = canvas;
          const box = canvas.getContext('2d')!.getImageData(0.1 * width, 0.09 * height, 0.3 * width, 0.03 * height);
          let count = 0;
          for (let i = 0; i < box.data.length; i += 4) if (box.data[i] < 90) count++;
          return count / (box.data.length / 4);
        });
        return dark > 0.05 && dark < 0.5;
      })
      .toBe(true);
  });

  it('gives a page room to write beside what is printed on it', async () => {
    await teacher.press('Size and room');
    await teacher.press('Room on the left: more');
    await expect.poll(async () => (await saved()).pages[0].page.leftPt).toBeLessThan(-190);
    const { page } = (await saved()).pages[0];
    expect(page.widthPt + page.leftPt).toBeCloseTo(page.sheet!.widthPt, 1);
    await teacher.page.keyboard.press('Escape');
    await teacher.press('Undo');
    await expect.poll(async () => (await saved()).pages[0].page.leftPt).toBe(0);
    await teacher.press('Redo');
    await expect.poll(async () => (await saved()).pages[0].page.leftPt).toBeLessThan(-190);
  });

  it('takes a picture from the clipboard, and puts it back where it was when that is undone', async () => {
    await teacher.paste('halves.png', 'image/png', halves());
    await teacher.find('toolbar', 'Picture');
    await expect.poll(async () => picturesOf(await saved(), 0).length).toBe(1);
    await expect.poll(async () => isRed(await shownAt(0.45, 0.5))).toBe(true);
    await expect.poll(async () => isGreen(await shownAt(0.55, 0.5))).toBe(true);
    const before = (await shownPicture()).frame;
    await teacher.drag([0.45, 0.5], [0.35, 0.6]);
    await expect.poll(async () => (await shownPicture()).frame.xPt).toBeLessThan(before.xPt - 40);
    await teacher.press('Undo');
    await expect.poll(async () => (await shownPicture()).frame).toEqual(before);
  });

  it('moves, resizes and turns it by keyboard, too', async () => {
    const before = (await shownPicture()).frame;
    await (await teacher.find('group', 'Picture, held')).focus();
    for (const key of ['ArrowRight', 'ArrowDown', '+', ']'] as const) await teacher.page.keyboard.press(key);
    await expect.poll(async () => (await shownPicture()).frame.turnRad).toBeGreaterThan(0);
    const after = (await shownPicture()).frame;
    expect(after.xPt).toBeCloseTo(before.xPt + 1, 1);
    expect(after.widthPt / after.heightPt).toBeCloseTo(before.widthPt / before.heightPt, 2);
    for (let n = 0; n < 4; n++) await teacher.press('Undo');
    await expect.poll(async () => (await shownPicture()).frame).toEqual(before);
  });

  it('mirrors, crops and cuts it out', async () => {
    await teacher.press('Arrange');
    await teacher.press('Mirror');
    await expect.poll(async () => isGreen(await shownAt(0.45, 0.5))).toBe(true);
    await teacher.press('Arrange');
    await teacher.press('Mirror');
    await expect.poll(async () => isRed(await shownAt(0.45, 0.5))).toBe(true);
    await teacher.press('Crop');
    const { frame } = await shownPicture();
    await dragRightCropHandle(-0.15);
    await teacher.press('Crop to this');
    await expect.poll(async () => (await shownPicture()).crop.right).toBeLessThan(0.7);
    const half = await shownPicture();
    expect(half.frame.widthPt).toBeLessThan(frame.widthPt * 0.7);
    expect(half.frame.heightPt).toBeCloseTo(frame.heightPt, 0);
    await teacher.press('Show all of it');
    await expect.poll(async () => (await shownPicture()).crop.right).toBe(1);
    await teacher.press('Cut out');
    await teacher.drawLine([
      [0.46, 0.47],
      [0.54, 0.47],
      [0.54, 0.53],
      [0.46, 0.53],
    ]);
    await expect.poll(async () => (await shownPicture()).cutOut.length).toBeGreaterThan(6);
    await expect.poll(async () => isRed(await shownAt(0.48, 0.5))).toBe(true);
    await teacher.press('Undo');
    await expect.poll(async () => (await shownPicture()).cutOut.length).toBe(0);
  });

  it('locks it, so that writing never moves it', async () => {
    await teacher.press('More');
    await teacher.press('Lock');
    await teacher.find('button', 'Unlock');
    const before = (await shownPicture()).frame;
    await teacher.drag([0.5, 0.5], [0.7, 0.7]);
    await teacher.press('Night pen');
    await teacher.stroke([0.45, 0.5], [0.55, 0.5]);
    await expect.poll(async () => decodePieces(Buffer.from((await saved()).pages[0].pieces, 'base64')).length).toBe(2);
    expect((await shownPicture()).frame).toEqual(before);
    await expect.poll(async () => isRed(await shownAt(0.45, 0.47))).toBe(true);
  });

  it('chooses papers, duplicates and deletes pages, and undoes that', async () => {
    await teacher.press('Add a page');
    await teacher.press('Paper');
    await teacher.press('Dotted');
    await teacher.press('Night');
    await teacher.press('Use for this page');
    await expect.poll(async () => (await saved()).pages[1].page.paper.kind).toBe('dotted');
    await expect.poll(async () => (await shownAt(0.011, 0.011))[2] > (await shownAt(0.011, 0.011))[0]).toBe(true);
    await teacher.press('Page 2: more');
    await teacher.pick('Duplicate with ink');
    await expect.poll(async () => (await saved()).pages.length).toBe(4);
    await teacher.press('Page 3: more');
    await teacher.pick('Delete');
    await expect.poll(async () => (await saved()).pages.length).toBe(3);
    await teacher.press('Undo');
    await expect.poll(async () => (await saved()).pages.length).toBe(4);
    await teacher.press('Page 4: more');
    await teacher.pick('Move up');
    await expect.poll(async () => (await saved()).pages[2].page.sheet?.pageIndex).toBe(2);
  });

  it('still undoes after coming back', async () => {
    await teacher.sees('Saved');
    await teacher.page.reload();
    await teacher.find('image', 'Page to write on');
    await teacher.press('Undo');
    await expect.poll(async () => (await saved()).pages[3].page.sheet?.pageIndex).toBe(2);
  });

  it('shows in a second window what the first one changes, and lets neither write over the other', async () => {
    const second = await Person.at(classroom.browser, teacher.page.url());
    await second.find('button', 'Page 4');
    await second.page.bringToFront();
    await second.press('Page 4: more');
    await second.pick('Delete');
    await teacher.page.bringToFront();
    await teacher.isGone('button', 'Page 4');
    await second.page.close();
  });

  it('records a picture that is moved, and replays it so', async () => {
    await teacher.press('Page 1');
    await teacher.choose('Voice from', 'none');
    await teacher.press('Record this lesson');
    await teacher.sees('Recording');
    await teacher.paste('halves.png', 'image/png', halves());
    await teacher.find('toolbar', 'Picture');
    await expect.poll(async () => isGreen(await shownAt(0.55, 0.5))).toBe(true);
    await teacher.drag([0.45, 0.5], [0.3, 0.8]);
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    await expect.poll(async () => (await saved()).takes[0]?.ended).toBe(true);
    const marks = decodeMarks(await takeMarks(teacher));
    const moves = marks.filter((mark) => mark.kind === 'transform');
    expect(marks.some((mark) => mark.kind === 'place')).toBe(true);
    expect(moves.length).toBeGreaterThan(3);
    // The lesson plays from its start, before the picture came; at its end the picture lies where it was moved to.
    await expect.poll(async () => isRed(await shownAt(0.29, 0.8))).toBe(false);
    await (await teacher.find('slider', 'Playhead')).focus();
    await teacher.page.keyboard.press('End');
    await expect.poll(async () => isRed(await shownAt(0.29, 0.8))).toBe(true);
    expect(isPaper(await shownAt(0.02, 0.98))).toBe(true);
  });

  it('shows pictures and PDF pages to whoever has the link', async () => {
    await teacher.press('Share');
    await teacher.press('Make a watch link');
    const field = await teacher.find('textbox', 'Watch link');
    const link = await field.evaluate((element) => (element as HTMLInputElement).value);
    const phone = await openBrowser({ size: { width: 390, height: 844 } });
    const student = await Person.at(phone, link);
    await student.find('button', 'Play');
    await student.page.waitForFunction(() => {
      const canvas = document.querySelector('canvas')!;
      const { width, height } = canvas;
      if (width === 0) return false;
      const box = canvas.getContext('2d')!.getImageData(0.3 * width, 0.09 * height, 0.4 * width, 0.03 * height);
      let dark = 0;
      for (let i = 0; i < box.data.length; i += 4) if (box.data[i] < 110) dark++;
      return dark > 20;
    });
    await phone.close();
  });
});

describe('what cannot be used', () => {
  it.each([
    ['notes.txt', 'text/plain', Buffer.from('just words'), /not a picture that can be shown/],
    ['empty.png', 'image/png', Buffer.alloc(0), /empty/],
    ['broken.png', 'image/png', halves().subarray(0, 60), /damaged/],
    ['broken.pdf', 'application/pdf', Buffer.from('%PDF-1.7\nnot really'), /damaged/],
  ])('is refused with a message, and the lesson stays as it is: %s', async (name, type, bytes, message) => {
    await teacher.page.goto(classroom.school.url);
    await (await teacher.page.waitForSelector('::-p-text(Coming in from sea)'))!.click();
    await teacher.find('image', 'Page to write on');
    const before = await saved();
    await teacher.paste(name, type, bytes);
    await teacher.sees(message);
    expect(await saved()).toEqual(before);
  });
});
