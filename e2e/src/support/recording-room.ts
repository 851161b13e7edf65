import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { expect } from 'vitest';
import { newProfile, openBrowser, Person } from './browser';
import { writeSecondClicks } from './clicks';
import { bytesAt, openLesson } from './lessons';
import { School } from './school';

/** So much of a recording may be lost at worst. */
export const MOST_MISSING_SECONDS = 2;

/** What a recording has when it is whole on the server. */
interface Saved {
  seconds: number;
  strokes: number;
}

/** Where a teacher records clicks that come every second, whatever happens to server, browser and tabs. */
export class RecordingRoom {
  private constructor(
    readonly school: School,
    readonly microphone: string,
    /** The same browser again, when it is started anew. */
    readonly profile: string,
    public browser: Browser,
    public teacher: Person,
  ) {}

  static async open(): Promise<RecordingRoom> {
    const microphone = join(mkdtempSync(join(tmpdir(), 'kite-trail-e2e-')), 'clicks.wav');
    writeSecondClicks(microphone);
    const school = await School.start();
    const profile = newProfile();
    const browser = await openBrowser({ microphone, profile });
    const teacher = await Person.at(browser, school.url);
    await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    // Nobody needs to wait for what is tried elsewhere.
    await teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
    return new RecordingRoom(school, microphone, profile, browser, teacher);
  }

  async close(): Promise<void> {
    await this.browser.close();
    await this.school.close();
  }

  async openNewLesson(name: string): Promise<void> {
    const { teacher } = this;
    await teacher.page.goto(this.school.url);
    await teacher.press('New lesson');
    await teacher.fill('Name', name);
    await teacher.press('Make the lesson');
    await teacher.find('image', 'Page to write on');
  }

  /** Makes a lesson and records on it. @returns since when it records */
  async beginRecording(name: string): Promise<{ url: string; beganMs: number }> {
    await this.openNewLesson(name);
    await this.teacher.press('Record this lesson');
    await this.teacher.find('button', 'Pause');
    return { url: this.teacher.page.url(), beganMs: Date.now() };
  }

  /** The strokes come every second or so. */
  async writeFor(seconds: number): Promise<void> {
    const untilMs = Date.now() + seconds * 1000;
    for (let n = 0; Date.now() < untilMs; n++) {
      await this.teacher.stroke([0.1, 0.1 + (n % 8) * 0.1], [0.9, 0.12 + (n % 8) * 0.1], 60);
    }
  }

  lessonNow(): Promise<LessonDocument> {
    return openLesson(this.teacher);
  }

  /** Waits until the lesson's one take is whole on the server. */
  async savedTake(): Promise<Saved> {
    await expect.poll(async () => (await this.lessonNow()).takes[0]?.ended).toBe(true);
    const [take] = (await this.lessonNow()).takes;
    const marks = decodeMarks(await bytesAt(this.teacher, `/takes/${take.id}/marks`));
    return { seconds: take.lengthSamples / CLOCK_HZ, strokes: marks.filter((mark) => mark.kind === 'ink').length };
  }

  /** What the recording's own time says. */
  async recordedSeconds(): Promise<number> {
    const timer = await this.teacher.page.waitForSelector('[role=timer]');
    const [minutes, seconds] = (await timer!.evaluate((one) => one.textContent ?? '0:00')).split(':').map(Number);
    return minutes * 60 + seconds;
  }

  /** Writes until the recording, whose time is told in whole seconds, has gone on for more than one. */
  async goesOnAfter(seconds: number): Promise<void> {
    await this.writeFor(2);
    await expect.poll(() => this.recordedSeconds()).toBeGreaterThan(seconds + 1);
  }
}

export function report(disaster: string, recordedSeconds: number, saved: Saved): void {
  const missing = recordedSeconds - saved.seconds;
  console.log(`${disaster}: ${Math.max(0, missing).toFixed(2)} s of ${recordedSeconds.toFixed(2)} s missing`);
  expect(missing).toBeLessThan(MOST_MISSING_SECONDS);
  expect(saved.strokes).toBeGreaterThan(0);
}
