import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import { playsAsRecorded } from '@kite-trail/core/trail/programme';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newProfile, openBrowser, Person } from './support/browser';
import { writeSecondClicks } from './support/clicks';
import { bytesAt, openLesson } from './support/lessons';
import { clicksOf } from './support/programme';
import { School } from './support/school';

const MOST_MISSING_SECONDS = 2;

let school: School;
let browser: Browser;
let teacher: Person;
const profile = newProfile();
const microphone = join(mkdtempSync(join(tmpdir(), 'kite-trail-e2e-')), 'clicks.wav');

beforeAll(async () => {
  writeSecondClicks(microphone);
  school = await School.start();
  browser = await openBrowser({ microphone, profile });
  teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  // Nobody needs to wait for what is tried elsewhere.
  await teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

/** Makes a lesson and records on it; the strokes come every second or so. @returns since when it records */
async function openNewLesson(name: string): Promise<void> {
  await teacher.page.goto(school.url);
  await teacher.press('New lesson');
  await teacher.fill('Name', name);
  await teacher.press('Make the lesson');
  await teacher.find('image', 'Page to write on');
}

async function beginRecording(name: string): Promise<{ url: string; beganMs: number }> {
  await openNewLesson(name);
  await teacher.press('Record this lesson');
  await teacher.find('button', 'Pause');
  return { url: teacher.page.url(), beganMs: Date.now() };
}

async function writeFor(seconds: number): Promise<void> {
  const untilMs = Date.now() + seconds * 1000;
  for (let n = 0; Date.now() < untilMs; n++) {
    await teacher.stroke([0.1, 0.1 + (n % 8) * 0.1], [0.9, 0.12 + (n % 8) * 0.1], 60);
  }
}

const lessonNow = () =>
  teacher.page.evaluate(
    async () => (await fetch(`/api/lessons/${location.pathname.split('/')[2]}`)).json() as Promise<LessonDocument>,
  );

/** Waits until the lesson's one take is whole on the server. @returns its length and how many strokes it has */
async function savedTake(): Promise<{ seconds: number; strokes: number }> {
  await expect.poll(async () => (await lessonNow()).takes[0]?.ended).toBe(true);
  const [take] = (await lessonNow()).takes;
  const strokes = decodeMarks(await bytesAt(teacher, `/takes/${take.id}/marks`)).filter(
    (mark) => mark.kind === 'ink',
  ).length;
  return { seconds: take.lengthSamples / CLOCK_HZ, strokes };
}

/** What the recording's own time says. */
async function recordedSeconds(): Promise<number> {
  const timer = await teacher.page.waitForSelector('[role=timer]');
  const [minutes, seconds] = (await timer!.evaluate((one) => one.textContent ?? '0:00')).split(':').map(Number);
  return minutes * 60 + seconds;
}

/** Writes until the recording, whose time is told in whole seconds, has gone on for more than one. */
async function goesOnAfter(seconds: number): Promise<void> {
  await writeFor(2);
  await expect.poll(recordedSeconds).toBeGreaterThan(seconds + 1);
}

function report(disaster: string, recordedSeconds: number, saved: { seconds: number; strokes: number }): void {
  const missing = recordedSeconds - saved.seconds;
  console.log(`${disaster}: ${Math.max(0, missing).toFixed(2)} s of ${recordedSeconds.toFixed(2)} s missing`);
  expect(missing).toBeLessThan(MOST_MISSING_SECONDS);
  expect(saved.strokes).toBeGreaterThan(0);
}

describe('a recording outlives', () => {
  it('the server, killed in the middle of it and started again', async () => {
    await beginRecording('Server gone');
    await writeFor(3);
    await school.kill();
    await writeFor(3);
    await teacher.sees('waiting for the network');
    await school.begin();
    await teacher.sees('Safe here and on the server', 30_000);
    const seconds = await recordedSeconds();
    await teacher.press('Stop');
    report('server killed', seconds, await savedTake());
    // What was heard of the voice came with it, so nobody has to listen to it again.
    expect((await lessonNow()).takes[0].hasProfile).toBe(true);
  });

  it('its tab, closed in the middle of it', async () => {
    const { url, beganMs } = await beginRecording('Tab gone');
    await writeFor(4);
    const box = await teacher.board();
    // A stroke is still being written when the tab goes.
    await teacher.penAt('mousePressed', box.x + 50, box.y + 50, 0.5);
    const gone = teacher.page;
    await gone.evaluate(() => new Promise((resolve) => setTimeout(resolve, 1000)));
    teacher = await Person.at(browser, school.url);
    const endedMs = Date.now();
    await gone.close();
    await teacher.page.goto(url);
    await teacher.sees('had broken off here');
    report('tab closed', (endedMs - beganMs) / 1000, await savedTake());
    await teacher.find('button', 'Play');
  });

  it('its tab, closed in the middle of a retake: what there is of it plays in its place', async () => {
    await beginRecording('Retake gone');
    await writeFor(3);
    await teacher.press('Stop');
    const first = await savedTake();
    await teacher.press('Record');
    await teacher.press('All of it');
    await teacher.press('Retake the stretch');
    await teacher.find('button', 'Pause');
    const beganMs = Date.now();
    await writeFor(3);
    const gone = teacher.page;
    const url = gone.url();
    teacher = await Person.at(browser, school.url);
    const endedMs = Date.now();
    await gone.close();
    await teacher.page.goto(url);
    await teacher.sees('plays in its place in the trail');
    const {
      takes,
      edition: { programme },
    } = await lessonNow();
    const missing = (endedMs - beganMs) / 1000 - takes[1].lengthSamples / CLOCK_HZ;
    console.log(`tab closed in a retake: ${Math.max(0, missing).toFixed(2)} s missing`);
    expect(missing).toBeLessThan(MOST_MISSING_SECONDS);
    expect(programme.filter(playsAsRecorded).map(({ take }) => take)).toEqual([takes[1].id]);
    expect(takes[0].lengthSamples / CLOCK_HZ).toBeCloseTo(first.seconds);
  });

  it('its browser, killed in the middle of it', async () => {
    const { url, beganMs } = await beginRecording('Browser gone');
    await writeFor(5);
    const endedMs = Date.now();
    browser.process()!.kill('SIGKILL');
    browser = await openBrowser({ microphone, profile });
    teacher = await Person.at(browser, url);
    await teacher.sees('had broken off here');
    report('browser killed', (endedMs - beganMs) / 1000, await savedTake());
  });

  it('the session, expired in the middle of it: sign in again, and it goes to the server', async () => {
    await beginRecording('Session gone');
    await writeFor(2);
    await teacher.page.deleteCookie(...(await teacher.page.cookies()));
    await writeFor(2);
    const seconds = await recordedSeconds();
    await teacher.press('Stop');
    await teacher.sees('Sign in again');
    await teacher.fill('Password', DEMO_TEACHER.password);
    await teacher.press('Sign in');
    report('session expired', seconds, await savedTake());
  });
});

describe('while one window records', () => {
  it('another tab and another device may look but not record, are told why, and take over when it has gone', async () => {
    const { url, beganMs } = await beginRecording('Two at once');
    await writeFor(2);
    const tab = await Person.at(browser, url);
    await tab.sees('being recorded in another window');
    const elsewhere = await openBrowser({ microphone });
    const device = await Person.at(elsewhere, school.url);
    await device.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await device.page.goto(url);
    await device.sees('being recorded in another window or on another device');
    for (const looker of [tab, device]) {
      const record = await looker.find('button', 'Record this lesson');
      expect(await record.evaluate((one) => (one as HTMLButtonElement).disabled)).toBe(true);
      expect(await looker.page.$('[aria-label="Page to write on"]')).toBeNull();
    }
    await teacher.page.bringToFront();
    const endedMs = Date.now();
    // The recording window crashes.
    const crashed = teacher.page;
    const devtools = await crashed.createCDPSession();
    // Nobody is left to answer.
    void devtools.send('Page.crash').catch(() => {});
    await tab.page.bringToFront();
    teacher = tab;
    // Chromium lets go of a crashed window's lock in its own time.
    await tab.sees('had broken off here', 60_000);
    report('window crashed', (endedMs - beganMs) / 1000, await savedTake());
    await device.page.waitForFunction(() => !document.querySelector('[aria-label="Record this lesson"]:disabled'));
    await device.press('Record');
    await device.press('Record this lesson');
    await device.find('button', 'Pause');
    await tab.sees('being recorded in another window or on another device');
    await device.press('Stop');
    await device.find('slider', 'Playhead');
    await elsewhere.close();
  });
});

describe('what was prepared outlives', () => {
  it('its tab, closed while there was no network', async () => {
    await teacher.page.goto(school.url);
    await teacher.press('New lesson');
    await teacher.fill('Name', 'Prepared offline');
    await teacher.press('Make the lesson');
    await teacher.find('image', 'Page to write on');
    await teacher.page.setOfflineMode(true);
    await teacher.stroke([0.2, 0.2], [0.8, 0.8]);
    await teacher.sees('waiting for the network');
    const gone = teacher.page;
    teacher = await Person.at(browser, school.url);
    await gone.close();
    await teacher.page.goto(gone.url());
    await teacher.find('image', 'Page to write on');
    const { pages } = await lessonNow();
    expect(decodePieces(Buffer.from(pages[0].pieces, 'base64'))).toHaveLength(1);
    // It can even be undone.
    await teacher.press('Undo');
    await expect
      .poll(async () => decodePieces(Buffer.from((await lessonNow()).pages[0].pieces, 'base64')))
      .toHaveLength(0);
  });
});

describe('a recording without a microphone', () => {
  it('says what to do, and can be made without voice or with the simulated one', async () => {
    const bare = await openBrowser();
    teacher = await Person.at(bare, school.url);
    await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await teacher.press('New lesson');
    await teacher.fill('Name', 'No microphone');
    await teacher.press('Make the lesson');
    await teacher.press('Record this lesson');
    await teacher.sees(/No microphone was found|may not use the microphone/);
    for (const source of ['none', 'simulated']) {
      await teacher.choose('Voice from', source);
      await teacher.press('Record this lesson');
      await teacher.find('button', 'Pause');
      await writeFor(1);
      await teacher.press('Stop');
      await teacher.find('slider', 'Playhead');
      await teacher.press('Record');
    }
    await expect.poll(async () => (await lessonNow()).takes.filter((take) => take.ended).length).toBe(2);
    const {
      takes,
      edition: { programme },
    } = await lessonNow();
    expect(takes.map((take) => take.sound !== null)).toEqual([false, true]);
    expect(programme).toHaveLength(2);
    await bare.close();
  });
});

describe('bad luck while recording', () => {
  it('pauses when the microphone is unplugged, says so, and keeps what there is', async () => {
    teacher = await Person.at(browser, 'about:blank');
    await teacher.page.evaluateOnNewDocument(() => {
      const original = navigator.mediaDevices?.getUserMedia.bind(navigator.mediaDevices);
      if (!original) return;
      navigator.mediaDevices.getUserMedia = async (constraints) => {
        const { deviceId } = constraints!.audio as MediaTrackConstraints;
        Object.assign(window, { wantedDevice: deviceId });
        const isAway = (window as unknown as { isAway?: boolean }).isAway;
        if (isAway)
          throw new DOMException('It is not plugged in.', deviceId ? 'OverconstrainedError' : 'NotFoundError');
        const stream = await original(constraints);
        const unplug = () => {
          const [track] = stream.getAudioTracks();
          // Nothing comes from it any more, as from one that is gone; a page that stops it itself is told nothing.
          track.stop();
          track.dispatchEvent(new Event('ended'));
        };
        Object.assign(window, { unplug });
        return stream;
      };
    });
    await beginRecording('Microphone gone');
    await writeFor(3);
    await teacher.page.evaluate(() => (window as unknown as { unplug(): void }).unplug());
    await teacher.sees('The microphone is gone, so the recording is paused');
    const before = await recordedSeconds();
    const away = (isAway: boolean) => teacher.page.evaluate((is) => void Object.assign(window, { isAway: is }), isAway);
    await away(true);
    await teacher.press('Resume');
    await teacher.sees(/No microphone was found.*All so far is kept/);
    // It is plugged in again.
    await away(false);
    await teacher.press('Resume');
    await teacher.find('button', 'Pause');
    await writeFor(3);
    await goesOnAfter(before + 3);
    const after = await recordedSeconds();
    await teacher.press('Stop');
    report('microphone unplugged', after, await savedTake());
    // Its clicks come every second: they are heard before it was gone, and after it came back.
    const [take] = (await openLesson(teacher)).takes;
    const clicks = await clicksOf(teacher, take.id);
    expect(clicks.filter((at) => at < before).length).toBeGreaterThanOrEqual(2);
    expect(clicks.filter((at) => at > before + 0.2).length).toBeGreaterThanOrEqual(3);
  });

  it('says within three seconds what is missing where the sound of the device stands still', async () => {
    const others = teacher;
    teacher = await Person.at(browser, 'about:blank');
    await teacher.page.evaluateOnNewDocument(() => {
      // As where no loudspeaker is connected: the clock never begins.
      Object.defineProperty(BaseAudioContext.prototype, 'currentTime', { get: () => 0 });
    });
    await openNewLesson('Without a loudspeaker');
    await teacher.press('Record this lesson');
    await teacher.sees(/The sound of this device stands still.*Connect a loudspeaker/, 6000);
    await teacher.find('button', 'Record this lesson');
    await teacher.page.close();
    teacher = others;
    await teacher.page.bringToFront();
  });

  it('pauses when the lid is closed, says for how long, and goes on', async () => {
    await beginRecording('Lid closed');
    await writeFor(3);
    const before = await recordedSeconds();
    // All of the browser stands still, as on a device that sleeps, while the day goes on.
    const group = -browser.process()!.pid!;
    process.kill(group, 'SIGSTOP');
    await new Promise((resolve) => setTimeout(resolve, 8000));
    process.kill(group, 'SIGCONT');
    await teacher.sees(/This device slept for \d+ seconds, so the recording is paused/);
    await teacher.press('Resume');
    await goesOnAfter(before);
    const after = await recordedSeconds();
    await teacher.press('Stop');
    report('lid closed', after, await savedTake());
  });

  it('asks before somebody leaves in mid-recording, and pauses for dialogs', async () => {
    await beginRecording('Interrupted');
    await teacher.page.keyboard.press('?');
    await teacher.sees('Paused');
    await teacher.page.keyboard.press('Escape');
    await teacher.isGone('button', 'Close');
    await teacher.press('Resume');
    await teacher.find('button', 'Pause');
    const asked = new Promise<string>((resolve) =>
      teacher.page.once('dialog', (dialog) => {
        resolve(dialog.message());
        void dialog.dismiss();
      }),
    );
    await teacher.press('All lessons', 'link');
    expect(await asked).toMatch(/A recording is going on/);
    await teacher.press('Stop');
    await savedTake();
  });

  it('goes on without the network, and says what is safe', async () => {
    await beginRecording('Network gone');
    await teacher.page.setOfflineMode(true);
    await writeFor(3);
    await teacher.sees('Safe here · waiting for the network');
    const seconds = await recordedSeconds();
    await teacher.press('Stop');
    await teacher.press('Play');
    await teacher.page.setOfflineMode(false);
    report('network cut', seconds, await savedTake());
  });

  it('keeps parts on the server when this device has no room', async () => {
    teacher = await Person.at(browser, 'about:blank');
    await teacher.page.evaluateOnNewDocument(() => {
      const put = IDBObjectStore.prototype.put;
      IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: Parameters<typeof put>) {
        if (this.name === 'payloads') throw new DOMException('No room is left.', 'QuotaExceededError');
        return put.apply(this, args);
      };
    });
    await beginRecording('Device full');
    await writeFor(2);
    await teacher.sees('This device is full: kept on the server only');
    const seconds = await recordedSeconds();
    await teacher.press('Stop');
    report('device full', seconds, await savedTake());
  });

  it('says which browsers can record where WebCodecs are missing', async () => {
    teacher = await Person.at(browser, 'about:blank');
    await teacher.page.evaluateOnNewDocument(() => {
      delete (window as Partial<typeof globalThis>).AudioEncoder;
    });
    await teacher.page.goto(school.url);
    await (await teacher.page.waitForSelector('::-p-text(lateral marks)'))!.click();
    await teacher.press('Record this lesson');
    await teacher.sees('Use a current Chrome, Edge, Firefox or Safari');
  });
});
