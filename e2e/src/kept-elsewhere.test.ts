import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { programmeLength, takesIn } from '@kite-trail/core/trail/programme';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { writeSecondClicks } from './support/clicks';
import { openLesson } from './support/lessons';
import { clicksOf } from './support/programme';
import { untilRecorded } from './support/recording';
import { School } from './support/school';

let school: School;
let devices: Browser[];
let [atSea, ashore]: Person[] = [];

beforeAll(async () => {
  const microphone = join(mkdtempSync(join(tmpdir(), 'kite-trail-e2e-')), 'clicks.wav');
  writeSecondClicks(microphone);
  school = await School.start();
  devices = [await openBrowser({ microphone }), await openBrowser()];
  [atSea, ashore] = await Promise.all(devices.map((device) => Person.at(device, school.url)));
  for (const one of [atSea, ashore]) await one.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await atSea.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
  const lesson = await atSea.request<{ id: string }>('POST', '/lessons', { title: 'Two devices' });
  await atSea.page.goto(`${school.url}/lesson/${lesson.id}`);
});
afterAll(async () => {
  for (const device of devices ?? []) await device.close();
  await school?.close();
});

const lengthSeconds = async () => programmeLength((await openLesson(ashore)).edition.programme) / CLOCK_HZ;

describe('a recording whose beginning is kept on another device while its own has no network', () => {
  it('goes on, plays whole in the place of its beginning, and either can be chosen', async () => {
    await atSea.press('Record this lesson');
    await atSea.stroke([0.2, 0.2], [0.8, 0.2]);
    await untilRecorded(atSea, 3);
    await atSea.page.setOfflineMode(true);
    // Chromium keeps a stream that is open, such as the lesson's news: this ends it.
    await school.kill();
    await school.begin();

    await ashore.page.goto(atSea.page.url());
    await ashore.sees('A recording that broke off elsewhere is on the server.');
    await ashore.press('Keep it');
    await expect.poll(lengthSeconds).toBeGreaterThan(2);
    const beginning = (await openLesson(ashore)).takes.find(({ ended }) => ended)!;

    await atSea.stroke([0.2, 0.4], [0.8, 0.4]);
    await atSea.page.setOfflineMode(false);
    await atSea.stroke([0.2, 0.6], [0.8, 0.6]);
    await untilRecorded(atSea, 8);
    await atSea.press('Stop');
    await atSea.sees('was kept on another device');
    await atSea.sees(/^Saved$/m);

    const { takes, edition } = await openLesson(ashore);
    const whole = takes.find(({ ended, id }) => ended && id !== beginning.id)!;
    expect([...takesIn(edition.programme)]).toEqual([whole.id]);
    expect(whole.lengthSamples).toBeGreaterThan(beginning.lengthSamples + 3 * CLOCK_HZ);
    const [heard, heardFirst] = [await clicksOf(ashore, whole.id), await clicksOf(ashore, beginning.id)];
    expect(heardFirst.length).toBeGreaterThanOrEqual(2);
    expect(heard.length).toBeGreaterThanOrEqual(Math.floor(whole.lengthSamples / CLOCK_HZ) - 1);

    await ashore.press('Trim');
    await ashore.press('Takes');
    await ashore.press('Use Take 1');
    await expect.poll(lengthSeconds).toBeCloseTo(beginning.lengthSamples / CLOCK_HZ, 3);
    await ashore.press('Use Take 2');
    await expect.poll(lengthSeconds).toBeCloseTo(whole.lengthSamples / CLOCK_HZ, 3);
  });
});
