import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person, savesInto } from './support/browser';
import { areEvenAround, findClicks, nearest, writeClicks } from './support/clicks';
import { noteClicksAndPens, notedBy, untilPageTime, type Noted } from './support/metronome';
import { noteSounds, watchInkAppear } from './support/replay';
import { School } from './support/school';
import { complaintsAbout, decodeFrames, decodeSound, probe } from './support/video';

const FRAME_SECONDS = 1 / 30;
/** What the measuring itself may be off by: a click's foot and the rounding of event times. */
const MEASURING_SECONDS = 0.005;
const STROKES = 8;
const SMALL = { width: 320, height: 180 };

let school: School;
let browser: Browser;
let teacher: Person;
let noted: Noted;
let link: string;
/** The strokes around which the sound device ran evenly. */
let measured: number[];
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-e2e-'));
const placeOf = (n: number) => 0.08 + n * 0.1;

beforeAll(async () => {
  const clicks = join(folder, 'clicks.wav');
  writeClicks(
    clicks,
    120,
    Array.from({ length: 119 }, (_, i) => i + 0.5),
  );
  school = await School.start();
  browser = await openBrowser({ microphone: clicks });
  teacher = await Person.at(browser, 'about:blank');
  await noteClicksAndPens(teacher.page);
  await noteSounds(teacher.page);
  await teacher.page.goto(school.url);
  await savesInto(browser, folder);
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

const savedPages = () =>
  teacher.page.evaluate(async () => {
    const id = location.pathname.split('/')[2];
    const lesson = await (await fetch(`/api/lessons/${id}`)).json();
    return lesson as { pages: { pieces: string }[]; takes: { lengthSamples: number; ended: boolean }[] };
  });

describe('from pen and voice to a link and a video', () => {
  it('signs in and shows the demo lessons with their lengths', async () => {
    await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await teacher.sees('The rule of twelfths');
    await teacher.sees(/1:5\d\s+2 pages/);
    await teacher.sees('not recorded yet');
  });

  it('makes a lesson and writes with a pen whose pressure counts', async () => {
    await teacher.press('New lesson');
    await teacher.fill('Name', 'Bowline in four moves');
    await teacher.press('Make the lesson');
    await teacher.find('image', 'Page to write on');
    await teacher.stroke([0.1, 0.8], [0.5, 0.8]);
    await teacher.sees('Saved');
    await teacher.press('Undo');
    await teacher.press('Redo');
    await teacher.page.waitForFunction(async () => {
      const id = location.pathname.split('/')[2];
      const lesson = await (await fetch(`/api/lessons/${id}`)).json();
      return lesson.revision >= 2 && atob(lesson.pages[0].pieces).length > 40;
    });
  });

  it('takes ink from a mouse and from a finger, too, and erases whole strokes', async () => {
    const { x, y, width, height } = await teacher.board();
    const { mouse, touchscreen } = teacher.page;
    await mouse.move(x + width * 0.6, y + height * 0.8);
    await mouse.down();
    await mouse.move(x + width * 0.7, y + height * 0.85, { steps: 8 });
    await mouse.up();
    // Where a pen writes, fingers move the page, unless they are told to write.
    await teacher.press('Night pen');
    await teacher.press('More of this pen');
    await teacher.press('Fingers write, too', 'checkbox');
    await touchscreen.touchStart(x + width * 0.8, y + height * 0.8);
    await touchscreen.touchMove(x + width * 0.85, y + height * 0.85);
    await touchscreen.touchMove(x + width * 0.9, y + height * 0.8);
    await touchscreen.touchEnd();
    await expect.poll(strokesSaved).toBe(3);
    await teacher.press('Eraser');
    await teacher.stroke([0.65, 0.7], [0.65, 0.95]);
    await expect.poll(strokesSaved).toBe(2);
    await teacher.press('Undo');
    await expect.poll(strokesSaved).toBe(3);
    await teacher.press('Night pen');
  });

  it('records strokes that begin at the clicks, pauses, turns the page, resumes and stops', async () => {
    await teacher.press('Record this lesson');
    await teacher.sees('Recording');
    await teacher.page.waitForFunction(() => (window as unknown as { noted: Noted }).noted.clicksMs.length >= 5);
    await notedBy(teacher.page);
    await teacher.page.evaluate(() => ((window as unknown as { noted: Noted }).noted.pensDownMs = []));
    const box = await teacher.board();
    const { clicksMs } = await notedBy(teacher.page);
    for (let n = 0; n < STROKES; n++) {
      await untilPageTime(teacher.page, clicksMs.at(-1)! + (n + 1) * 1000);
      const x = box.x + placeOf(n) * box.width;
      const y = box.y + 0.4 * box.height;
      await teacher.penAt('mousePressed', x, y, 0.9);
      for (let i = 1; i <= 6; i++) await teacher.penAt('mouseMoved', x + i * 8, y + (i % 2) * 4, 0.9);
      await teacher.penAt('mouseReleased', x + 48, y, 0);
    }
    await teacher.page.waitForFunction(
      (count) => (window as unknown as { noted: Noted }).noted.clicksMs.length >= count,
      {},
      clicksMs.length + STROKES,
    );
    noted = await notedBy(teacher.page);
    await teacher.press('Pause');
    await teacher.sees('Paused');
    await teacher.press('Add a page');
    await teacher.stroke([0.2, 0.2], [0.8, 0.7]);
    await teacher.press('Resume');
    await teacher.sees('Recording');
    await teacher.sees('Safe here and on the server');
    await teacher.stroke([0.2, 0.7], [0.8, 0.2]);
    await teacher.press('Eraser');
    await teacher.stroke([0.5, 0.1], [0.5, 0.9]);
    await teacher.press('Undo');
    await teacher.press('Night pen');
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    await teacher.page.waitForFunction(async () => {
      const id = location.pathname.split('/')[2];
      const lesson = await (await fetch(`/api/lessons/${id}`)).json();
      return lesson.takes.length === 1 && lesson.takes[0].ended;
    });
    const { takes } = await savedPages();
    expect(takes[0].lengthSamples).toBeGreaterThan(STROKES * CLOCK_HZ);
    const kinds = decodeMarks(await fetched('marks')).map((mark) => mark.kind);
    expect(kinds).toEqual(['turn', ...ink(STROKES), 'add-page', 'turn', ...ink(2), 'lift', 'place']);
  });

  it('keeps ink and voice within 5 ms of each other on the take’s clock', async ({ skip }) => {
    const [sound, marks] = await Promise.all([fetched('sound'), fetched('marks')]);
    const file = join(folder, 'take.ogg');
    writeFileSync(file, sound);
    const clicks = findClicks(decodeSound(file), CLOCK_HZ);
    const ink = decodeMarks(marks).filter((mark) => mark.kind === 'ink');
    const heard = noted.clicksMs.map((atMs) => atMs / 1000);
    const strokes = noted.pensDownMs.slice(0, STROKES).map((_, n) => n);
    measured = strokes.filter(
      (n) => areEvenAround(heard, noted.pensDownMs[n] / 1000) && areEvenAround(clicks, ink[n].atSamples / CLOCK_HZ),
    );
    const offsets = strokes.map((n) => {
      const penMs = noted.pensDownMs[n];
      const atSeconds = ink[n].atSamples / CLOCK_HZ;
      return atSeconds - nearest(clicks, atSeconds) - (penMs - nearest(noted.clicksMs, penMs)) / 1000;
    });
    console.log(
      `captured: ink off by ${offsets.map(ms).join(', ')}; the sound ran evenly around ${measured.join(', ')}`,
    );
    // On a machine that is starved of time, the simulated device never ran evenly: then nothing was measured.
    skip(measured.length === 0, 'the simulated sound device stalled all the time');
    for (const n of measured) expect(Math.abs(offsets[n])).toBeLessThan(0.005);
  });

  it('replays ink in the first frame after its sound', async ({ skip }) => {
    await (await teacher.find('slider', 'Playhead')).focus();
    await teacher.page.keyboard.press('Home');
    await teacher.press('Play');
    const seen = await watchInkAppear(
      teacher.page,
      Array.from({ length: STROKES }, (_, n) => [placeOf(n), 0.4] as const),
    );
    await teacher.press('Pause');
    const ink = decodeMarks(await fetched('marks')).filter((mark) => mark.kind === 'ink');
    const meant = ink.map((mark) => mark.atSamples / CLOCK_HZ);
    const even = [...seen.entries()].filter(([, { isEven }]) => isEven);
    console.log(
      `replayed: ink ${seen.map(({ seconds }, n) => ms(seconds - meant[n])).join(', ')} after its sound; ` +
        `the sound ran evenly until ${even.map(([n]) => n).join(', ')}`,
    );
    // What stalls a machine's sound while it plays says nothing of us.
    skip(even.length === 0, 'the simulated sound device stalled all the time');
    for (const [n, { seconds, notBefore }] of even) {
      expect(seconds).toBeGreaterThan(meant[n] - MEASURING_SECONDS);
      expect(notBefore).toBeLessThan(meant[n] + MEASURING_SECONDS);
    }
  });

  it('plays from the writing steps, too', async () => {
    await teacher.press('Prepare');
    await teacher.press('Play');
    const before = await playheadAt();
    await expect.poll(playheadAt).toBeGreaterThan(before);
    await teacher.press('Pause');
  });

  it('exports an MP4 in which strokes and clicks agree within a frame (ffprobe, ffmpeg)', async () => {
    await teacher.press('Share');
    await teacher.press('Make a video');
    await teacher.press('Give up Bowline in four moves.mp4');
    await teacher.press('Make a video');
    await teacher.press('Save Bowline in four moves.mp4', 'link');
    await expect.poll(() => readdirSync(folder).filter((name) => name.endsWith('.mp4'))).toHaveLength(1);
    const file = join(folder, 'Bowline in four moves.mp4');
    expect(complaintsAbout(file)).toBe('');
    const { streams, format } = probe(file);
    const video = streams.find((one) => one.codec_type === 'video')!;
    const audio = streams.find((one) => one.codec_type === 'audio')!;
    expect(format.format_name).toContain('mp4');
    expect([video.codec_name, video.width, video.height, video.pix_fmt]).toEqual(['h264', 1280, 720, 'yuv420p']);
    expect([audio.codec_name, audio.profile]).toEqual(['aac', 'LC']);

    const clicks = findClicks(decodeSound(file), 48_000);
    const strokes = strokesSeen(file);
    expect(strokes).toHaveLength(STROKES);
    const all = strokes.map((seconds, n) => {
      const penMs = noted.pensDownMs[n];
      return { shown: seconds - nearest(clicks, seconds), meant: (penMs - nearest(noted.clicksMs, penMs)) / 1000 };
    });
    const offsets = measured.map((n) => all[n]);
    console.log(
      `exported: ${offsets.map(({ shown, meant }) => `ink ${ms(shown)} after its click (meant ${ms(meant)})`).join(', ')}`,
    );
    for (const { shown, meant } of offsets) {
      // A stroke is seen from the first frame after it began; broadcasters allow sound +40/−60 ms (EBU R37).
      expect(shown - meant).toBeGreaterThan(-MEASURING_SECONDS);
      expect(shown - meant).toBeLessThan(FRAME_SECONDS + MEASURING_SECONDS);
    }
  });

  it('trims the end and undoes it', async () => {
    await teacher.press('Trim', 'button');
    const before = await lengthShown();
    const handle = await teacher.find('slider', 'End of what is kept');
    await handle.focus();
    await teacher.page.keyboard.press('ArrowLeft');
    await teacher.page.keyboard.press('ArrowLeft');
    await (await teacher.page.waitForSelector('[role=group][aria-label=Trim] button:not(:disabled)'))!.click();
    await expect.poll(lengthShown).toBe(before - 2 * 48_000);
    await teacher.press('Undo edit');
    await expect.poll(lengthShown).toBe(before);
  });

  it('shares a link that a stranger can watch, on a phone, without an account', async () => {
    await teacher.press('Share');
    await teacher.press('Make a watch link');
    const field = await teacher.find('textbox', 'Watch link');
    link = (await field.evaluate((element) => (element as HTMLInputElement).value)) as string;
    const strangers = await openBrowser({ size: { width: 390, height: 844 } });
    const student = await Person.at(strangers, link);
    await student.sees('Bowline in four moves');
    await student.press('Play');
    await student.page.waitForFunction(() => Number(document.querySelector('input')?.value) > 24_000);
    await student.press('Pause');
    await strangers.close();
  });

  it('plays nothing any more once the link is withdrawn', async () => {
    await teacher.press('All links and their rules');
    await teacher.press('Withdraw The lesson');
    await teacher.press('Withdraw it');
    await teacher.find('button', 'Make a watch link');
    const student = await Person.at(browser, link);
    await student.sees('The teacher has withdrawn this link');
    const lost = await Person.at(browser, `${school.url}/w/not-a-link-at-all-0000000`);
    await lost.sees('This link leads nowhere');
  });
});

async function strokesSaved(): Promise<number> {
  const { pages } = await savedPages();
  return decodePieces(Buffer.from(pages[0].pieces, 'base64')).length;
}

const ink = (count: number) => Array<string>(count).fill('ink');

const ms = (seconds: number) => `${(seconds * 1000).toFixed(1)} ms`;

/** A part of the take just recorded, as the server has it. */
async function fetched(what: 'sound' | 'marks'): Promise<Uint8Array> {
  const text = await teacher.page.evaluate(async (name) => {
    const lesson = await (await fetch(`/api/lessons/${location.pathname.split('/')[2]}`)).json();
    const bytes = new Uint8Array(await (await fetch(`/api/takes/${lesson.takes[0].id}/${name}`)).arrayBuffer());
    return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
  }, what);
  return Buffer.from(text, 'base64');
}

async function playheadAt(): Promise<number> {
  const slider = await teacher.find('slider', 'Playhead');
  return Number(await slider.evaluate((element) => element.getAttribute('aria-valuenow')));
}

async function lengthShown(): Promise<number> {
  const slider = await teacher.find('slider', 'Playhead');
  return Number(await slider.evaluate((element) => element.getAttribute('aria-valuemax')));
}

/** When each stroke is first to be seen: when its part of the picture first differs from how it began. */
function strokesSeen(file: string): number[] {
  const frames = decodeFrames(file, 30, SMALL);
  return Array.from({ length: STROKES }, (_, n) => {
    const column = Math.floor(placeOf(n) * SMALL.width);
    const row = Math.floor(0.4 * SMALL.height);
    const darkness = (frame: Uint8Array) => {
      let darkest = 255;
      for (let y = row - 3; y <= row + 3; y++) {
        for (let x = column - 3; x <= column + 3; x++) darkest = Math.min(darkest, frame[y * SMALL.width + x]);
      }
      return darkest;
    };
    const before = darkness(frames[0]);
    return frames.findIndex((frame) => darkness(frame) < before - 12) / 30;
  });
}
