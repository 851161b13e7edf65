import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { openLesson } from './support/lessons';
import { clicksOf } from './support/programme';
import { RecordingRoom, report } from './support/recording-room';

let room: RecordingRoom;

beforeAll(async () => {
  room = await RecordingRoom.open();
});
afterAll(() => room?.close());

describe('a recording without a microphone', () => {
  it('says what to do, and can be made without voice or with the simulated one', async () => {
    const bare = await openBrowser();
    room.teacher = await Person.at(bare, room.school.url);
    await room.teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await room.teacher.press('New lesson');
    await room.teacher.fill('Name', 'No microphone');
    await room.teacher.press('Make the lesson');
    await room.teacher.press('Record this lesson');
    await room.teacher.sees(/No microphone was found|may not use the microphone/);
    for (const source of ['none', 'simulated']) {
      await room.teacher.choose('Voice from', source);
      await room.teacher.press('Record this lesson');
      await room.teacher.find('button', 'Pause');
      await room.writeFor(1);
      await room.teacher.press('Stop');
      await room.teacher.find('slider', 'Playhead');
      await room.teacher.press('Record');
    }
    await expect.poll(async () => (await room.lessonNow()).takes.filter((take) => take.ended).length).toBe(2);
    const {
      takes,
      edition: { programme },
    } = await room.lessonNow();
    expect(takes.map((take) => take.sound !== null)).toEqual([false, true]);
    expect(programme).toHaveLength(2);
    await bare.close();
  });
});

describe('bad luck while recording', () => {
  it('pauses when the microphone is unplugged, says so, and keeps what there is', async () => {
    room.teacher = await Person.at(room.browser, 'about:blank');
    await room.teacher.page.evaluateOnNewDocument(() => {
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
    await room.beginRecording('Microphone gone');
    await room.writeFor(3);
    await room.teacher.page.evaluate(() => (window as unknown as { unplug(): void }).unplug());
    await room.teacher.sees('The microphone is gone, so the recording is paused');
    const before = await room.recordedSeconds();
    const away = (isAway: boolean) =>
      room.teacher.page.evaluate((is) => void Object.assign(window, { isAway: is }), isAway);
    await away(true);
    await room.teacher.press('Resume');
    await room.teacher.sees(/No microphone was found.*All so far is kept/);
    // It is plugged in again.
    await away(false);
    await room.teacher.press('Resume');
    await room.teacher.find('button', 'Pause');
    await room.writeFor(3);
    await room.goesOnAfter(before + 3);
    const after = await room.recordedSeconds();
    await room.teacher.press('Stop');
    report('microphone unplugged', after, await room.savedTake());
    // Its clicks come every second: they are heard before it was gone, and after it came back.
    const [take] = (await openLesson(room.teacher)).takes;
    const clicks = await clicksOf(room.teacher, take.id);
    expect(clicks.filter((at) => at < before).length).toBeGreaterThanOrEqual(2);
    expect(clicks.filter((at) => at > before + 0.2).length).toBeGreaterThanOrEqual(3);
  });

  it('says within three seconds what is missing where the sound of the device stands still', async () => {
    const others = room.teacher;
    room.teacher = await Person.at(room.browser, 'about:blank');
    await room.teacher.page.evaluateOnNewDocument(() => {
      // As where no loudspeaker is connected: the clock never begins.
      Object.defineProperty(BaseAudioContext.prototype, 'currentTime', { get: () => 0 });
    });
    await room.openNewLesson('Without a loudspeaker');
    await room.teacher.press('Record this lesson');
    await room.teacher.sees(/The sound of this device stands still.*Connect a loudspeaker/, 6000);
    await room.teacher.find('button', 'Record this lesson');
    await room.teacher.page.close();
    room.teacher = others;
    await room.teacher.page.bringToFront();
  });

  it('pauses when the lid is closed, says for how long, and goes on', async () => {
    await room.beginRecording('Lid closed');
    await room.writeFor(3);
    const before = await room.recordedSeconds();
    // All of the browser stands still, as on a device that sleeps, while the day goes on.
    const group = -room.browser.process()!.pid!;
    process.kill(group, 'SIGSTOP');
    await new Promise((resolve) => setTimeout(resolve, 8000));
    process.kill(group, 'SIGCONT');
    await room.teacher.sees(/This device slept for \d+ seconds, so the recording is paused/);
    await room.teacher.press('Resume');
    await room.goesOnAfter(before);
    const after = await room.recordedSeconds();
    await room.teacher.press('Stop');
    report('lid closed', after, await room.savedTake());
  });

  it('asks before somebody leaves in mid-recording, and pauses for dialogs', async () => {
    await room.beginRecording('Interrupted');
    await room.teacher.page.keyboard.press('?');
    await room.teacher.sees('Paused');
    await room.teacher.page.keyboard.press('Escape');
    await room.teacher.isGone('button', 'Close');
    await room.teacher.press('Resume');
    await room.teacher.find('button', 'Pause');
    const asked = new Promise<string>((resolve) =>
      room.teacher.page.once('dialog', (dialog) => {
        resolve(dialog.message());
        void dialog.dismiss();
      }),
    );
    await room.teacher.press('All lessons', 'link');
    expect(await asked).toMatch(/A recording is going on/);
    await room.teacher.press('Stop');
    await room.savedTake();
  });

  it('goes on without the network, and says what is safe', async () => {
    await room.beginRecording('Network gone');
    await room.teacher.page.setOfflineMode(true);
    await room.writeFor(3);
    await room.teacher.sees('Safe here · waiting for the network');
    const seconds = await room.recordedSeconds();
    await room.teacher.press('Stop');
    await room.teacher.press('Play');
    await room.teacher.page.setOfflineMode(false);
    report('network cut', seconds, await room.savedTake());
  });

  it('keeps parts on the server when this device has no room', async () => {
    room.teacher = await Person.at(room.browser, 'about:blank');
    await room.teacher.page.evaluateOnNewDocument(() => {
      const put = IDBObjectStore.prototype.put;
      IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: Parameters<typeof put>) {
        if (this.name === 'payloads') throw new DOMException('No room is left.', 'QuotaExceededError');
        return put.apply(this, args);
      };
    });
    await room.beginRecording('Device full');
    await room.writeFor(2);
    await room.teacher.sees('This device is full: kept on the server only');
    const seconds = await room.recordedSeconds();
    await room.teacher.press('Stop');
    report('device full', seconds, await room.savedTake());
  });

  it('says which browsers can record where WebCodecs are missing', async () => {
    room.teacher = await Person.at(room.browser, 'about:blank');
    await room.teacher.page.evaluateOnNewDocument(() => {
      delete (window as Partial<typeof globalThis>).AudioEncoder;
    });
    await room.teacher.page.goto(room.school.url);
    await (await room.teacher.page.waitForSelector('::-p-text(lateral marks)'))!.click();
    await room.teacher.press('Record this lesson');
    await room.teacher.sees('Use a current Chrome, Edge, Firefox or Safari');
  });
});
