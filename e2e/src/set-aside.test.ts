import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { takesIn } from '@kite-trail/core/trail/programme';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person, savesInto } from './support/browser';
import { clicksOf } from './support/programme';
import { bytesAt, openLesson } from './support/lessons';
import { School } from './support/school';
import { untilRecorded } from './support/recording';
import { probe } from './support/video';
import { writeSecondClicks } from './support/clicks';

const REFUSAL = 'This part of the recording cannot be.';
const SECONDS = 4;

let school: School;
let browser: Browser;
let teacher: Person;
let lessonUrl: string;
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-e2e-'));
const microphone = join(folder, 'clicks.wav');

/** A browser at whose desk the teacher of the demo sits; what they save comes into the folder. */
async function sitDown(): Promise<void> {
  browser = await openBrowser({ microphone });
  teacher = await Person.at(browser, school.url);
  await savesInto(browser, folder);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
}

/** The school refuses the second part of a recording, as a newer or damaged one would be. */
async function refuseParts(page: Page): Promise<void> {
  await page.setRequestInterception(true);
  page.on('request', (request) => {
    if (request.method() !== 'PUT' || !request.url().endsWith('/parts/1')) return void request.continue();
    void request.respond({
      status: 400,
      contentType: 'application/json',
      body: JSON.stringify({ code: 'bad-input', message: REFUSAL }),
    });
  });
}

beforeAll(async () => {
  writeSecondClicks(microphone);
  school = await School.start();
  await sitDown();
  await teacher.press('New lesson');
  await teacher.fill('Name', 'Refused');
  await teacher.press('Make the lesson');
  await teacher.find('image', 'Page to write on');
  lessonUrl = teacher.page.url();
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

describe('a recording that the school refuses', () => {
  it('goes on, is set aside whole, and is told with the reason', async () => {
    await refuseParts(teacher.page);
    await teacher.press('Record this lesson');
    await teacher.find('button', 'Pause');
    await untilRecorded(teacher, 1);
    await teacher.stroke([0.2, 0.2], [0.8, 0.4]);
    await untilRecorded(teacher, SECONDS);
    await teacher.stroke([0.2, 0.5], [0.8, 0.7]);
    await teacher.press('Stop');
    await teacher.sees(REFUSAL);
    await teacher.sees('1 set aside');
    expect((await openLesson(teacher)).edition.programme).toEqual([]);
    // It does not stand in the way of anything else.
    await teacher.press('Prepare');
    await teacher.stroke([0.2, 0.8], [0.8, 0.8]);
    await teacher.sees(/^Saved$/m);
  });

  it('can be heard, and made into a video, also after a reload', async () => {
    await teacher.page.reload();
    await teacher.press('Saved 1 set aside');
    await teacher.press('Hear it');
    await teacher.press('Pause the recording');
    await teacher.find('button', 'Play the recording');
    await teacher.press('close');
    await teacher.press('Saved 1 set aside');
    await teacher.press('Make a video');
    const video = await teacher.page.waitForSelector('a[download$=".mp4"]', { timeout: 60_000 });
    const name = await video!.evaluate((link) => (link as HTMLAnchorElement).download);
    await video!.click();
    await expect.poll(() => readdirSync(folder)).toContain(name);
    expect(Number(probe(join(folder, name)).format.duration)).toBeGreaterThan(SECONDS - 0.5);
  });

  it('is saved to a file, brought back on another device, and plays', async () => {
    await teacher.press('Save to a file');
    const saved = () => readdirSync(folder).find((name) => name.endsWith('.zip'));
    await expect.poll(saved).toBeDefined();
    await teacher.press('Delete');
    await teacher.press('Delete it for good');
    await teacher.page.waitForFunction(() => !document.body.innerText.includes('set aside'));
    await browser.close();

    await sitDown();
    await teacher.page.goto(lessonUrl);
    await teacher.press('Saved');
    await teacher.upload('Saved file', join(folder, saved()!));
    await expect.poll(async () => takesIn((await openLesson(teacher)).edition.programme).size).toBe(1);
    const [take] = (await openLesson(teacher)).takes;
    expect(take.lengthSamples / CLOCK_HZ).toBeGreaterThan(SECONDS - 0.5);
    const marks = decodeMarks(await bytesAt(teacher, `/takes/${take.id}/marks`));
    expect(marks.filter(({ kind }) => kind === 'ink')).toHaveLength(2);
    expect((await clicksOf(teacher, take.id)).length).toBeGreaterThanOrEqual(SECONDS - 1);
    await teacher.find('slider', 'Playhead');
    await teacher.press('Play');
    await teacher.find('button', 'Pause');
  });

  it('that was saved to another file is told apart from one', async () => {
    await teacher.press('Saved');
    await teacher.upload('Saved file', microphone);
    await teacher.sees('This is no file of work that was set aside');
  });
});
