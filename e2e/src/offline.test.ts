import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { createCanvas } from '@napi-rs/canvas';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { writeSecondClicks } from './support/clicks';
import { bytesAt, openLesson } from './support/lessons';
import { clicksOf } from './support/programme';
import { untilRecorded } from './support/recording';
import { School } from './support/school';

/** So long there is no network in each step; `OFFLINE_SECONDS=60` for a minute. */
const OFFLINE_MS = Number(process.env.OFFLINE_SECONDS ?? 10) * 1000;

let school: School;
let browser: Browser;
let teacher: Person;
let lessonUrl: string;
const microphone = join(mkdtempSync(join(tmpdir(), 'kite-trail-e2e-')), 'clicks.wav');

beforeAll(async () => {
  writeSecondClicks(microphone);
  school = await School.start();
  browser = await openBrowser({ microphone });
  teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
  const lesson = await teacher.request<{ id: string }>('POST', '/lessons', { title: 'Without a network' });
  lessonUrl = `${school.url}/lesson/${lesson.id}`;
  await teacher.page.goto(lessonUrl);
  await teacher.find('image', 'Page to write on');
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

/** Works without a network, closes the tab before it is back, and comes again when it is. */
async function workOffline(work: () => Promise<void>): Promise<void> {
  await teacher.page.setOfflineMode(true);
  const untilMs = Date.now() + OFFLINE_MS;
  await work();
  await teacher.sees('Not saved yet: waiting for the network');
  await new Promise((resolve) => setTimeout(resolve, Math.max(0, untilMs - Date.now())));
  const gone = teacher.page;
  teacher = await Person.at(browser, 'about:blank');
  await gone.close();
  await teacher.page.goto(lessonUrl);
  await teacher.sees(/^Saved$/m);
}

describe('what is made without a network, in a tab that is closed before it is back', () => {
  it('arrives from Prepare: a name, ink, a page and a picture', async () => {
    const canvas = createCanvas(40, 30);
    canvas.getContext('2d').fillRect(0, 0, 40, 15);
    await workOffline(async () => {
      await teacher.fill('Lesson name', 'Out at sea');
      await teacher.stroke([0.2, 0.2], [0.8, 0.3]);
      await teacher.page.keyboard.press('n');
      await teacher.stroke([0.2, 0.4], [0.8, 0.5]);
      await teacher.paste('buoy.png', 'image/png', canvas.toBuffer('image/png'));
      await teacher.find('toolbar', 'Picture');
    });
    const { pages, title } = await openLesson(teacher);
    expect(title).toBe('Out at sea');
    const kinds = pages.map((one) => decodePieces(Buffer.from(one.pieces, 'base64')).map(({ kind }) => kind));
    expect(kinds).toEqual([['stroke'], ['stroke', 'picture']]);
    await expect.poll(() => teacher.page.$('.missing')).toBeNull();
  });

  it('arrives from Record: the whole take, with its voice', async () => {
    await workOffline(async () => {
      await teacher.press('Record');
      await teacher.press('Record this lesson');
      // The claim to record needs no network.
      await teacher.find('button', 'Pause');
      await teacher.stroke([0.2, 0.6], [0.8, 0.7]);
      await untilRecorded(teacher, 4);
      await teacher.press('Stop');
      await teacher.isGone('button', 'Stop');
    });
    const { takes, edition } = await openLesson(teacher);
    expect(takes).toHaveLength(1);
    expect(takes[0].lengthSamples / CLOCK_HZ).toBeGreaterThan(3.4);
    expect(programmeLength(edition.programme)).toBe(takes[0].lengthSamples);
    const marks = decodeMarks(await bytesAt(teacher, `/takes/${takes[0].id}/marks`));
    expect(marks.filter(({ kind }) => kind === 'ink')).toHaveLength(1);
    expect((await clicksOf(teacher, takes[0].id)).length).toBeGreaterThanOrEqual(3);
  });

  it('arrives from Trim: every edit, in its order', async () => {
    const before = programmeLength((await openLesson(teacher)).edition.programme);
    await workOffline(async () => {
      await teacher.press('Trim');
      for (let n = 0; n < 2; n++) {
        await (await teacher.find('slider', 'Playhead')).focus();
        await teacher.page.keyboard.press('Home');
        await teacher.page.keyboard.press('[');
        await teacher.page.keyboard.press('ArrowRight');
        await teacher.page.keyboard.press(']');
        await teacher.press('Cut, keep ink');
        await teacher.isGone('button', 'Cut, keep ink');
      }
      await teacher.page.keyboard.down('Control');
      await teacher.page.keyboard.press('z');
      await teacher.page.keyboard.up('Control');
    });
    const { edition, edit, canRedoEdit } = await openLesson(teacher);
    expect(programmeLength(edition.programme)).toBe(before - CLOCK_HZ);
    expect([edit.n, canRedoEdit]).toEqual([2, true]);
  });
});

describe('a school that cannot be asked when its pages are opened', () => {
  /** Opens a page, whose school then answers nothing until it is back. */
  async function openAway(path: string): Promise<{ other: Person; comesBack: () => void }> {
    const other = await Person.at(browser, 'about:blank');
    let isAway = true;
    await other.page.setRequestInterception(true);
    other.page.on('request', (request) => {
      const isQuestion = new URL(request.url()).pathname.startsWith('/api/');
      void (isAway && isQuestion ? request.abort('connectionfailed') : request.continue());
    });
    await other.page.goto(path);
    await other.sees('The server cannot be reached');
    return { other, comesBack: () => (isAway = false) };
  }

  it('is asked again, and the lesson opens, and is worked on', async () => {
    const { other, comesBack } = await openAway(lessonUrl);
    comesBack();
    await other.press('Prepare');
    await other.stroke([0.2, 0.8], [0.8, 0.9]);
    await other.sees(/^Saved$/m);
    await other.page.close();
  });

  it('is asked again, and the lessons are there', async () => {
    const { other, comesBack } = await openAway(school.url);
    comesBack();
    await other.sees('Out at sea');
    await other.page.close();
  });

  it('is asked again, and whoever is not signed in comes to the door', async () => {
    const cookies = await browser.cookies();
    await browser.deleteCookie(...cookies);
    const { other, comesBack } = await openAway(lessonUrl);
    comesBack();
    await other.find('textbox', 'Password');
    await other.page.close();
    await browser.setCookie(...cookies);
  });
});

describe('a sign-in that ran out', () => {
  it('is asked for at the door where a lesson is opened', async () => {
    const cookies = await browser.cookies();
    const other = await Person.at(browser, school.url);
    await other.sees('Out at sea');
    await browser.deleteCookie(...cookies);
    await (await other.page.waitForSelector('::-p-text(Out at sea)'))!.click();
    await other.find('textbox', 'Password');
    await other.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await other.sees('Out at sea');
    await other.page.close();
    await browser.setCookie(...cookies);
  });
});

describe('a recorder that could not be loaded', () => {
  it('says so before it begins, and lets the lesson be recorded without voice', async () => {
    const fresh = await openBrowser({ microphone });
    const other = await Person.at(fresh, school.url);
    await other.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await other.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
    await other.page.setRequestInterception(true);
    other.page.on('request', (request) =>
      request.url().includes('voice-encoder') ? void request.abort() : void request.continue(),
    );
    await other.page.goto(lessonUrl);
    await other.press('Record');
    await other.press('Record this lesson');
    await other.sees('What records a voice could not be loaded');
    await other.choose('Voice from', 'none');
    await other.press('Record this lesson');
    await other.find('button', 'Pause');
    await other.press('Stop');
    await fresh.close();
  });
});
