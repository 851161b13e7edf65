import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';

let classroom: Classroom;
let teacher: Person;
let audience: Page;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await classroom.makeLesson('Lights and shapes');
  const opened = new Promise<Page>((resolve) => teacher.page.once('popup', (page) => resolve(page!)));
  await teacher.press('Audience window');
  audience = await opened;
});
afterAll(() => classroom?.close());

/** How dark each layer is at its darkest, within a part of its width and height: 0 black to 255. */
const darkest = (left: number, top: number, right: number, bottom: number) =>
  audience.evaluate(
    (...[x0, y0, x1, y1]) =>
      [...document.querySelectorAll('canvas')].map((canvas) => {
        const { width, height } = canvas;
        const pixels = canvas
          .getContext('2d')!
          .getImageData(x0 * width, y0 * height, (x1 - x0) * width, (y1 - y0) * height).data;
        let least = 255;
        for (let i = 0; i < pixels.length; i += 4) if (pixels[i + 3] > 128) least = Math.min(least, pixels[i]);
        return least;
      }),
    left,
    top,
    right,
    bottom,
  );

describe('the audience window', () => {
  it('shows the page and nothing else', async () => {
    expect(await audience.evaluate(() => document.body.innerText.trim())).toBe('');
    expect(await audience.evaluate(() => document.querySelectorAll('button, input, a').length)).toBe(0);
    const [settled] = await darkest(0, 0, 1, 1);
    expect(settled).toBeGreaterThan(180);
  });

  it('shows ink while it is still wet, and once it is on the page', async () => {
    await teacher.pen('mousePressed', 0.2, 0.25, 0.8);
    for (let i = 1; i <= 10; i++) await teacher.pen('mouseMoved', 0.2 + i * 0.02, 0.25, 0.8);
    await expect.poll(async () => (await darkest(0.2, 0.2, 0.4, 0.3))[1]).toBeLessThan(60);
    expect((await darkest(0.2, 0.2, 0.4, 0.3))[0]).toBeGreaterThan(180);
    await teacher.pen('mouseReleased', 0.4, 0.25, 0);
    await expect.poll(async () => (await darkest(0.2, 0.2, 0.4, 0.3))[0]).toBeLessThan(60);
  });

  it('looks where the teacher looks', async () => {
    await teacher.press('Larger');
    await teacher.press('Larger');
    // The stroke at a quarter of the height has left the upper quarter; seen larger, it is nearer to the corner.
    await expect.poll(async () => (await darkest(0.2, 0.2, 0.4, 0.3))[0]).toBeGreaterThan(180);
    await teacher.press('All of the page');
    await expect.poll(async () => (await darkest(0.2, 0.2, 0.4, 0.3))[0]).toBeLessThan(60);
  });

  it('is not shown what only the teacher needs, such as the line around what is to be held', async () => {
    await teacher.press('Take hold');
    const { x, y, width, height } = await teacher.board();
    const { mouse } = teacher.page;
    await mouse.move(x + 0.6 * width, y + 0.6 * height);
    await mouse.down();
    await mouse.move(x + 0.9 * width, y + 0.9 * height, { steps: 5 });
    expect((await darkest(0.55, 0.55, 0.95, 0.95))[1]).toBe(255);
    await mouse.up();
  });

  it('shows the page again when it is reloaded', async () => {
    await audience.reload();
    await expect.poll(async () => (await darkest(0.2, 0.2, 0.4, 0.3))[0]).toBeLessThan(60);
  });

  it('closes with its lesson', async () => {
    const closed = new Promise((resolve) => audience.once('close', resolve));
    await teacher.press('All lessons', 'link');
    await closed;
  });
});
