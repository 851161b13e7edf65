import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { School } from './support/school';
import { writeTone } from './support/wav';

let school: School;
let browser: Browser;
let teacher: Person;

beforeAll(async () => {
  const hum = join(mkdtempSync(join(tmpdir(), 'kite-trail-e2e-')), 'hum.wav');
  writeTone(hum, 60, 100, 0.02);
  school = await School.start();
  browser = await openBrowser({ microphone: hum });
  teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
  const lesson = await teacher.request<{ id: string }>('POST', '/lessons', { title: 'Only a hum' });
  await teacher.page.goto(`${school.url}/lesson/${lesson.id}`);
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

describe('a microphone that brings nothing but noise', () => {
  it('is told of while recording, without moving the page under the pen, and afterwards', async () => {
    await teacher.press('Record this lesson');
    await teacher.find('button', 'Pause');
    const before = await teacher.board();
    await teacher.sees('Nothing but noise has come from the microphone so far');
    expect(await teacher.board()).toEqual(before);
    await teacher.press('Close this message');
    await teacher.page.waitForFunction(() => !document.body.innerText.includes('Nothing but noise'));
    await teacher.press('Stop');
    await teacher.sees('Nothing but noise came from the microphone all the time');
  });
});
