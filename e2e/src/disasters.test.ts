import { decodePieces } from '@kite-trail/core/formats/marks-coding';
import { playsAsRecorded } from '@kite-trail/core/trail/programme';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { MOST_MISSING_SECONDS, RecordingRoom, report } from './support/recording-room';

let room: RecordingRoom;

beforeAll(async () => {
  room = await RecordingRoom.open();
});
afterAll(() => room?.close());

describe('a recording outlives', () => {
  it('the server, killed in the middle of it and started again', async () => {
    await room.beginRecording('Server gone');
    await room.writeFor(3);
    await room.school.kill();
    await room.writeFor(3);
    await room.teacher.sees('waiting for the network');
    await room.school.begin();
    await room.teacher.sees('Safe here and on the server', 30_000);
    const seconds = await room.recordedSeconds();
    await room.teacher.press('Stop');
    report('server killed', seconds, await room.savedTake());
    // What was heard of the voice came with it, so nobody has to listen to it again.
    expect((await room.lessonNow()).takes[0].hasProfile).toBe(true);
  });

  it('its tab, closed in the middle of it', async () => {
    const { url, beganMs } = await room.beginRecording('Tab gone');
    await room.writeFor(4);
    const box = await room.teacher.board();
    // A stroke is still being written when the tab goes.
    await room.teacher.penAt('mousePressed', box.x + 50, box.y + 50, 0.5);
    const gone = room.teacher.page;
    await gone.evaluate(() => new Promise((resolve) => setTimeout(resolve, 1000)));
    room.teacher = await Person.at(room.browser, room.school.url);
    const endedMs = Date.now();
    await gone.close();
    await room.teacher.page.goto(url);
    await room.teacher.sees('had broken off here');
    report('tab closed', (endedMs - beganMs) / 1000, await room.savedTake());
    await room.teacher.find('button', 'Play');
  });

  it('its tab, closed in the middle of a retake: what there is of it plays in its place', async () => {
    await room.beginRecording('Retake gone');
    await room.writeFor(3);
    await room.teacher.press('Stop');
    const first = await room.savedTake();
    await room.teacher.press('Record');
    await room.teacher.press('All of it');
    await room.teacher.press('Retake the stretch');
    await room.teacher.find('button', 'Pause');
    const beganMs = Date.now();
    await room.writeFor(3);
    const gone = room.teacher.page;
    const url = gone.url();
    room.teacher = await Person.at(room.browser, room.school.url);
    const endedMs = Date.now();
    await gone.close();
    await room.teacher.page.goto(url);
    await room.teacher.sees('plays in its place in the trail');
    const {
      takes,
      edition: { programme },
    } = await room.lessonNow();
    const missing = (endedMs - beganMs) / 1000 - takes[1].lengthSamples / CLOCK_HZ;
    console.log(`tab closed in a retake: ${Math.max(0, missing).toFixed(2)} s missing`);
    expect(missing).toBeLessThan(MOST_MISSING_SECONDS);
    expect(programme.filter(playsAsRecorded).map(({ take }) => take)).toEqual([takes[1].id]);
    expect(takes[0].lengthSamples / CLOCK_HZ).toBeCloseTo(first.seconds);
  });

  it('its browser, killed in the middle of it', async () => {
    const { url, beganMs } = await room.beginRecording('Browser gone');
    await room.writeFor(5);
    const endedMs = Date.now();
    room.browser.process()!.kill('SIGKILL');
    room.browser = await openBrowser({ microphone: room.microphone, profile: room.profile });
    room.teacher = await Person.at(room.browser, url);
    await room.teacher.sees('had broken off here');
    report('browser killed', (endedMs - beganMs) / 1000, await room.savedTake());
  });

  it('the session, expired in the middle of it: sign in again, and it goes to the server', async () => {
    await room.beginRecording('Session gone');
    await room.writeFor(2);
    await room.teacher.page.deleteCookie(...(await room.teacher.page.cookies()));
    await room.writeFor(2);
    const seconds = await room.recordedSeconds();
    await room.teacher.press('Stop');
    await room.teacher.sees('Sign in again');
    await room.teacher.fill('Password', DEMO_TEACHER.password);
    await room.teacher.press('Sign in');
    report('session expired', seconds, await room.savedTake());
  });
});

describe('while one window records', () => {
  it('another tab and another device may look but not record, are told why, and take over when it has gone', async () => {
    const { url, beganMs } = await room.beginRecording('Two at once');
    await room.writeFor(2);
    const tab = await Person.at(room.browser, url);
    await tab.sees('being recorded in another window');
    const elsewhere = await openBrowser({ microphone: room.microphone });
    const device = await Person.at(elsewhere, room.school.url);
    await device.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await device.page.goto(url);
    await device.sees('being recorded in another window or on another device');
    for (const looker of [tab, device]) {
      const record = await looker.find('button', 'Record this lesson');
      expect(await record.evaluate((one) => (one as HTMLButtonElement).disabled)).toBe(true);
      expect(await looker.page.$('[aria-label="Page to write on"]')).toBeNull();
    }
    // The recording window is looked at again, and crashes.
    const crashed = room.teacher.page;
    await crashed.bringToFront();
    await crashed.evaluate(() => new Promise((resolve) => setTimeout(resolve, 1000)));
    const endedMs = Date.now();
    const devtools = await crashed.createCDPSession();
    // Nobody is left to answer.
    void devtools.send('Page.crash').catch(() => {});
    await tab.page.bringToFront();
    room.teacher = tab;
    // Chromium lets go of a crashed window's lock in its own time.
    await tab.sees('had broken off here', 60_000);
    report('window crashed', (endedMs - beganMs) / 1000, await room.savedTake());
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
    await room.teacher.page.goto(room.school.url);
    await room.teacher.press('New lesson');
    await room.teacher.fill('Name', 'Prepared offline');
    await room.teacher.press('Make the lesson');
    await room.teacher.find('image', 'Page to write on');
    await room.teacher.page.setOfflineMode(true);
    await room.teacher.stroke([0.2, 0.2], [0.8, 0.8]);
    await room.teacher.sees('waiting for the network');
    const gone = room.teacher.page;
    room.teacher = await Person.at(room.browser, room.school.url);
    await gone.close();
    await room.teacher.page.goto(gone.url());
    await room.teacher.find('image', 'Page to write on');
    const { pages } = await room.lessonNow();
    expect(decodePieces(Buffer.from(pages[0].pieces, 'base64'))).toHaveLength(1);
    // It can even be undone.
    await room.teacher.press('Undo');
    await expect
      .poll(async () => decodePieces(Buffer.from((await room.lessonNow()).pages[0].pieces, 'base64')))
      .toHaveLength(0);
  });
});
