import type { HTTPRequest } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openLesson, piecesOn } from './support/lessons';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
  await classroom.makeLesson('Lights of the harbour');
});
afterAll(() => classroom?.close());

const step = () => teacher.page.$eval('[aria-current=step]', (one) => one.textContent!.trim());
const address = () => {
  const { pathname, search } = new URL(teacher.page.url());
  return pathname.split('/').slice(3).join('/') + search;
};

describe('every step of a lesson', () => {
  it('has an address: back and forward go from step to step, and a reload stays where one was', async () => {
    expect([await step(), address()]).toEqual(['Prepare', 'prepare']);
    await teacher.press('Record', 'button');
    await expect.poll(step).toBe('Record');
    await teacher.press('Share');
    await expect.poll(address).toBe('share');
    await teacher.page.goBack();
    await expect.poll(step).toBe('Record');
    await teacher.page.goBack();
    await expect.poll(step).toBe('Prepare');
    await teacher.page.goForward();
    await expect.poll(address).toBe('record');
    await teacher.page.reload();
    await expect.poll(step).toBe('Record');
    await teacher.find('button', 'Record this lesson');
  });

  it('is not left in the middle of a recording without being asked', async () => {
    await teacher.choose('Voice from', 'simulated');
    await teacher.press('Record this lesson');
    await teacher.find('button', 'Pause');
    await teacher.stroke([0.2, 0.2], [0.6, 0.4]);
    const asked = new Promise<string>((resolve) =>
      teacher.page.once('dialog', (dialog) => {
        resolve(dialog.message());
        void dialog.dismiss();
      }),
    );
    // The browser's own way back.
    await teacher.page.evaluate(() => history.back());
    expect(await asked).toMatch(/A recording is going on/);
    await teacher.find('button', 'Stop');
    expect([await step(), address()]).toEqual(['Record', 'record']);
    await teacher.press('Stop');
    await expect.poll(step).toBe('Trim');
    await expect.poll(async () => (await openLesson(teacher)).takes[0]?.ended).toBe(true);
  });

  it('keeps its panel in the address, and opens it again when it is come back to', async () => {
    await teacher.press('Chapters');
    await teacher.find('region', 'Chapters');
    expect(address()).toBe('trim?panel=chapters');
    await teacher.press('Share');
    await teacher.press('Trim');
    await teacher.find('region', 'Chapters');
    await teacher.page.reload();
    await teacher.find('region', 'Chapters');
    await teacher.page.goBack();
    await teacher.page.goBack();
    await teacher.page.goBack();
    await expect.poll(address).toBe('trim');
    await teacher.isGone('region', 'Chapters');
  });

  it('goes on with a video while another is looked at', async () => {
    await teacher.press('Share');
    await teacher.press('Make a video');
    await teacher.press('Prepare');
    await teacher.find('image', 'Page to write on');
    await teacher.press('Share');
    await teacher.find('link', 'Save Lights of the harbour.mp4');
    await teacher.press('Trim');
    await teacher.press('Share');
    await teacher.find('link', 'Save Lights of the harbour.mp4');
  });
});

describe('a lesson that is left', () => {
  /** Holds back some requests of the page until they are let go. */
  async function heldBack(isMeant: (method: string, path: string) => boolean): Promise<() => Promise<void>> {
    let letGo = () => {};
    const open = new Promise<void>((resolve) => (letGo = resolve));
    await teacher.page.setRequestInterception(true);
    const hold = async (request: HTTPRequest) => {
      if (isMeant(request.method(), new URL(request.url()).pathname)) await open;
      await request.continue();
    };
    teacher.page.on('request', hold);
    return async () => {
      letGo();
      teacher.page.off('request', hold);
      await teacher.page.setRequestInterception(false);
    };
  }

  it('while it is being opened does not call the teacher back', async () => {
    await classroom.makeLesson('Left at once');
    const asked = `/lessons/${new URL(teacher.page.url()).pathname.split('/')[2]}`;
    await teacher.page.goto(classroom.school.url);
    await teacher.sees('Left at once');
    const letGo = await heldBack((method, path) => method === 'GET' && path.startsWith('/api/lessons/'));
    await teacher.page.locator('::-p-text(Left at once)').click();
    await teacher.sees('Opening…');
    await teacher.page.goBack();
    await teacher.sees('Left at once');
    const arrived = new Promise<void>((resolve) => {
      teacher.page.on('requestfinished', (one) => new URL(one.url()).pathname === `/api${asked}` && resolve());
    });
    await letGo();
    await arrived;
    await teacher.press('New lesson');
    await teacher.find('textbox', 'Name');
    expect(new URL(teacher.page.url()).pathname).toBe('/');
  });

  it('hears no key any more, though what was changed in it is still on its way', async () => {
    await classroom.makeLesson('Left in a hurry');
    const before = teacher.page.url();
    const letGo = await heldBack((method, path) => method === 'POST' && path.endsWith('/changes'));
    await teacher.stroke([0.2, 0.2], [0.4, 0.3]);
    await teacher.press('All lessons', 'link');
    await teacher.sees('Left in a hurry');
    // In the lesson, this adds a page.
    await teacher.page.keyboard.press('n');
    await letGo();
    await teacher.page.goto(before);
    await teacher.find('image', 'Page to write on');
    await expect.poll(async () => (await piecesOn(teacher)).length).toBe(1);
    expect((await openLesson(teacher)).pages).toHaveLength(1);
  });
});

describe('what is set in one window', () => {
  const isOnTheLeft = (person: Person) =>
    person.page.$eval('[aria-label="Tools"]', (tools) => tools.getBoundingClientRect().left < innerWidth / 2);

  it('is kept for the next, and moves nothing under the pen of another that is open', async () => {
    await classroom.makeLesson('Two hands');
    const other = await Person.at(classroom.browser, teacher.page.url());
    await other.find('image', 'Page to write on');
    const heard = teacher.page.evaluate(
      () => new Promise<void>((resolve) => window.addEventListener('storage', () => resolve(), { once: true })),
    );
    await other.press('Swap sides for the other hand');
    await heard;
    expect([await isOnTheLeft(teacher), await isOnTheLeft(other)]).toEqual([true, false]);
    await other.page.reload();
    await other.find('image', 'Page to write on');
    expect(await isOnTheLeft(other)).toBe(false);
    await other.press('Swap sides for the other hand');
    await other.page.close();
    await teacher.page.bringToFront();
  });
});

describe('what was copied last', () => {
  /** Lets a copy of the page's own go through a clipboard. @returns what the clipboard holds then */
  const copied = () =>
    teacher.page.evaluate(() => {
      const clipboardData = new DataTransfer();
      window.dispatchEvent(new ClipboardEvent('copy', { clipboardData, bubbles: true, cancelable: true }));
      return clipboardData.types.map((type) => [type, clipboardData.getData(type)] as const);
    });
  const pasted = (texts: readonly (readonly [string, string])[]) =>
    teacher.page.evaluate((all) => {
      const clipboardData = new DataTransfer();
      for (const [type, text] of all) clipboardData.setData(type, text);
      window.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    }, texts);

  it('is what is pasted: pieces of one’s own, or text of another program, which becomes a text', async () => {
    await classroom.makeLesson('Copies');
    await teacher.stroke([0.2, 0.2], [0.4, 0.3]);
    await teacher.page.keyboard.down('Control');
    await teacher.page.keyboard.press('a');
    await teacher.page.keyboard.up('Control');
    await teacher.find('toolbar', 'What is held');
    const pieces = await copied();
    expect(pieces.map(([type]) => type)).toContain('text/plain');
    await pasted(pieces);
    await expect.poll(async () => (await piecesOn(teacher)).map(({ kind }) => kind)).toEqual(['stroke', 'stroke']);
    // Something else was copied since, elsewhere.
    await pasted([['text/plain', 'Red over green']]);
    await expect
      .poll(async () => (await piecesOn(teacher)).flatMap((one) => (one.kind === 'text' ? [one.content.text] : [])))
      .toEqual(['Red over green']);
    // Into another window, the pieces.
    const other = await Person.at(classroom.browser, teacher.page.url());
    await other.find('image', 'Page to write on');
    await other.page.evaluate((all) => {
      const clipboardData = new DataTransfer();
      for (const [type, text] of all) clipboardData.setData(type, text);
      window.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    }, pieces);
    await expect.poll(async () => (await piecesOn(other)).filter(({ kind }) => kind === 'stroke').length).toBe(3);
    await other.page.close();
  });
});
