import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { readTimedText, writeSubRip } from '@kite-trail/core/formats/timed-text';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { Edition } from '@kite-trail/core/trail/edition';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person, savesInto } from './support/browser';
import { findClicks, writeBursts } from './support/clicks';
import { bytesAt, openLesson, publishedAt, takeMarks } from './support/lessons';
import { clicksOf, meantClicks, playsAt, secondsOf } from './support/programme';
import { untilRecorded } from './support/recording';
import { School } from './support/school';
import { decodeFrames, decodeSound } from './support/video';

const FRAME_SECONDS = 1 / 30;
/** What codecs may do to a click's foot, and fades to one at a splice. */
const TOLERANCE = 0.005;
const SMALL = { width: 320, height: 180 };
/** Spoken for a while, then silent for four seconds, over and over. */
const [SPOKEN, ROUND] = [5, 9];

/** With three seconds counted before it, the take is silent from 2 to 6 and from 11 to 15 seconds, or thereabouts. */
const STROKES_AT = [1, 2, 7, 8, 9, 12, 13, 14, 16, 17];
/** How far down the page each stroke is looked for. */
const LOOKED_AT = 0.35;
const PAGE_HEIGHT_PT = wideSquaredPage('any' as PageId).heightPt;

let school: School;
let browser: Browser;
let teacher: Person;
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-e2e-'));

beforeAll(async () => {
  const microphone = join(folder, 'bursts.wav');
  const bursts = Array.from({ length: 6 }, (_, round) =>
    Array.from({ length: SPOKEN / 0.5 }, (_unused, n) => 0.2 + round * ROUND + n * 0.5),
  );
  writeBursts(microphone, 6 * ROUND, bursts.flat());
  school = await School.start();
  browser = await openBrowser({ microphone });
  teacher = await Person.at(browser, school.url);
  await savesInto(browser, folder);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await teacher.press('New lesson');
  await teacher.fill('Name', 'Coiling a line');
  await teacher.press('Make the lesson');
  await teacher.find('image', 'Page to write on');
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

const placeOf = (n: number) => 0.06 + n * 0.08;
const edition = async (): Promise<Edition> => (await openLesson(teacher)).edition;
const lengthOf = async () => programmeLength((await edition()).programme) / CLOCK_HZ;

/** When each stroke begins in the take, and how much later it has come to where it is looked for. */
async function inkOfTake(): Promise<{ at: number; reached: number }[]> {
  const marks = decodeMarks(await takeMarks(teacher));
  return marks.flatMap((mark) => {
    if (mark.kind !== 'ink') return [];
    const { yPt, sinceMs } = mark.stroke.points;
    const down = yPt.findIndex((y) => y >= LOOKED_AT * PAGE_HEIGHT_PT);
    return [{ at: mark.atSamples / CLOCK_HZ, reached: sinceMs[down] / 1000 }];
  });
}
const inkSeconds = async () => (await inkOfTake()).map(({ at }) => at);

/** When the bursts are heard in the take itself. */
let bursts: number[];

/** Puts the playhead at a moment of the trail, to a tenth. */
async function playheadTo(seconds: number): Promise<void> {
  const playhead = await teacher.find('slider', 'Playhead');
  await playhead.focus();
  await teacher.page.keyboard.press('Home');
  for (let n = 0; n < Math.floor(seconds / 10); n++) await teacher.page.keyboard.press('PageUp');
  for (let n = 0; n < Math.floor(seconds % 10); n++) await teacher.page.keyboard.press('ArrowRight');
  for (let n = 0; n < Math.round((seconds % 1) * 10); n++) await teacher.page.keyboard.press('ArrowUp');
}

/** Chooses a stretch by keys, as one does while listening. */
async function choose(from: number, to: number): Promise<void> {
  await playheadTo(from);
  await teacher.page.keyboard.press('[');
  await playheadTo(to);
  await teacher.page.keyboard.press(']');
  await teacher.find('button', 'Cut, keep ink');
}

const saved = async () => {
  await teacher.sees('Saved');
};

describe('a recording that is tidied up', () => {
  it('has bursts of voice, silences, and strokes in both', async () => {
    await teacher.press('Record this lesson');
    await teacher.find('button', 'Pause');
    for (const [n, seconds] of STROKES_AT.entries()) {
      await untilRecorded(teacher, seconds);
      await teacher.stroke([placeOf(n), 0.3], [placeOf(n), 0.6], 6);
    }
    await untilRecorded(teacher, 19);
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    await expect.poll(async () => (await openLesson(teacher)).takes[0]?.ended).toBe(true);
    await teacher.page.waitForSelector('[aria-label=Trail][aria-busy=false]');
    const [take] = (await openLesson(teacher)).takes;
    bursts = await clicksOf(teacher, take.id);
    expect(bursts.length).toBeGreaterThan(15);
  });

  it('is drawn anew when it is seen larger and whole again', async () => {
    const drawn = () => teacher.page.$eval('.editor canvas', (canvas) => (canvas as HTMLCanvasElement).toDataURL());
    const before = await drawn();
    await teacher.press('See the trail larger');
    await expect.poll(drawn).not.toBe(before);
    await teacher.press('See all of the trail');
    await expect.poll(drawn).toBe(before);
  });

  it('is heard where the playhead is put by keys', async () => {
    await teacher.page.evaluate(() => {
      const heard: number[] = [];
      Object.assign(window, { heard });
      const start = AudioBufferSourceNode.prototype.start;
      AudioBufferSourceNode.prototype.start = function (this: AudioBufferSourceNode, when) {
        heard.push(Math.max(...this.buffer!.getChannelData(0)));
        start.call(this, when);
      };
    });
    await playheadTo(bursts[3]);
    const loudest = () => teacher.page.evaluate(() => Math.max(0, ...(window as unknown as { heard: number[] }).heard));
    await expect.poll(loudest).toBeGreaterThan(0.05);
  });

  it('has its pauses found and closed in one step, of which one can be left out', async () => {
    const before = await lengthOf();
    const ink = await inkSeconds();
    await teacher.press('Pauses');
    const list = await teacher.find('list', 'Pauses');
    const rows = await list.$$eval('li', (found) => found.map((one) => one.textContent ?? ''));
    console.log(`pauses: ${rows.map((row) => row.replace(/\s+/g, ' ').trim()).join('; ')}`);
    expect(rows.length).toBeGreaterThan(0);
    const saves = rows.map((row) => Number(/saves ([\d.]+) s/.exec(row)![1]));
    await teacher.page.locator('ul[aria-label=Pauses] [role=checkbox]').click();
    await teacher.sees(new RegExp(`Close ${rows.length - 1}, save`));
    await teacher.page.locator('ul[aria-label=Pauses] [role=checkbox]').click();
    await (await teacher.page.waitForSelector('::-p-text(Close):is(button, button *)::-p-text(save)'))!.click();
    await saved();
    const total = saves.reduce((sum, one) => sum + one, 0);
    await expect.poll(async () => Math.abs(before - (await lengthOf()) - total)).toBeLessThan(0.06 * rows.length);
    // No burst and no stroke has gone.
    expect(await meantClicks(teacher)).toHaveLength(bursts.length);
    const { programme } = await edition();
    expect(ink.every((at) => playsAt(programme, programme[0].take, at) !== null)).toBe(true);
    await teacher.press('Undo edit');
    await saved();
    expect(await lengthOf()).toBeCloseTo(before);
    await teacher.press('Redo edit');
    await saved();
  });

  it('plays silent writing quicker, without sound', async () => {
    const before = await lengthOf();
    await (await teacher.page.waitForSelector('::-p-text(Quicken writing)'))!.click();
    const list = await teacher.find('list', 'Silent writing');
    const count = await list.$$eval('li', (found) => found.length);
    await (await teacher.page.waitForSelector('::-p-text(Quicken):is(button, button *)::-p-text(save)'))!.click();
    await saved();
    const { programme } = await edition();
    expect(programme.filter((one) => one.kind === 'play' && one.pace === 4)).toHaveLength(count);
    expect(await lengthOf()).toBeLessThan(before - 1);
  });

  it('loses one stretch whose ink stays, and one with its ink', async () => {
    const before = await lengthOf();
    const { programme } = await edition();
    const { take } = programme[0];
    const ink = (await inkSeconds()).map((at) => playsAt(programme, take, at)!);
    await choose(ink[2] - 0.2, ink[2] + 0.5);
    await teacher.press('Cut, keep ink');
    await saved();
    const kept = await edition();
    expect(await lengthOf()).toBeCloseTo(before - 0.7, 1);
    const third = playsAt(kept.programme, take, (await inkSeconds())[4])!;
    await choose(third - 0.3, third + 0.4);
    await teacher.press('Cut with ink');
    await saved();
    expect(await lengthOf()).toBeCloseTo(before - 1.4, 1);
    expect(playsAt((await edition()).programme, take, (await inkSeconds())[4])).toBeNull();
  });

  it('is exported with every burst and stroke where the arithmetic says, within one frame', async () => {
    await teacher.press('Share');
    await teacher.press('Make a video');
    await teacher.press('Save Coiling a line.mp4', 'link');
    await expect.poll(() => readdirSync(folder).filter((name) => name.endsWith('.mp4'))).toHaveLength(1);
    const file = join(folder, 'Coiling a line.mp4');
    const { programme } = await edition();
    const { take } = programme[0];
    const heard = findClicks(decodeSound(file), CLOCK_HZ);
    const meant = await meantClicks(teacher);
    const splices = splicesOf(programme);
    // A burst that a splice cuts into, or that begins in its fade, is heard from there on, or not at all.
    const isClear = (at: number) => splices.every((splice) => at < splice - 0.25 || at > splice + 0.25);
    const [one, other] = [heard.filter(isClear), meant.filter(isClear)];
    const worst = Math.max(...other.map((at) => Math.min(...one.map((found) => Math.abs(found - at)))));
    console.log(`${other.length} bursts meant, ${one.length} heard; off by at most ${(worst * 1000).toFixed(1)} ms`);
    expect(worst).toBeLessThan(TOLERANCE);

    const seen = strokesSeen(file);
    const wanted = (await inkOfTake()).map(({ at, reached }) => {
      const begins = playsAt(programme, take, at);
      // Ink that is there at once is there whole.
      return begins === null || isAtOnce(programme, at) ? begins : playsAt(programme, take, at + reached);
    });
    const offsets = wanted.map((at, n) => (at === null || seen[n] === null ? null : seen[n] - at));
    console.log(
      `strokes are seen ${offsets.map((by) => (by === null ? 'never' : `${(by * 1000).toFixed(0)} ms`)).join(', ')} after`,
    );
    expect(wanted.filter((at) => at === null)).toHaveLength(1);
    for (const [n, at] of wanted.entries()) {
      expect(seen[n] === null).toBe(at === null);
      if (at === null || seen[n] === null) continue;
      expect(seen[n] - at).toBeGreaterThan(-TOLERANCE);
      expect(seen[n] - at).toBeLessThan(FRAME_SECONDS + TOLERANCE);
    }
  });

  it('is the same behind a link: bursts, length, and loudness', async () => {
    await teacher.press('Make a watch link');
    await teacher.sees('Whoever has this link can watch');
    const token = (await teacher.valueOf('textbox', 'Watch link')).split('/').at(-1)!;
    const file = join(folder, 'link.mp4');
    writeFileSync(file, await bytesAt(teacher, `${await publishedAt(teacher, token)}/sound`));
    const [link, video] = [decodeSound(file), decodeSound(join(folder, 'Coiling a line.mp4'))];
    const [inLink, inVideo] = [findClicks(link, CLOCK_HZ), findClicks(video, CLOCK_HZ)];
    expect(inLink).toHaveLength(inVideo.length);
    inLink.forEach((at, n) => expect(Math.abs(at - inVideo[n])).toBeLessThan(TOLERANCE));
  });
});

/** Whether a moment of the take lies in a stretch that takes no time. */
const isAtOnce = (programme: Edition['programme'], takeSeconds: number): boolean =>
  programme.some(
    (one) =>
      one.kind === 'at-once' && takeSeconds * CLOCK_HZ >= one.fromSamples && takeSeconds * CLOCK_HZ < one.toSamples,
  );

const splicesOf = (programme: Edition['programme']): number[] => {
  let at = 0;
  return programme.map((segment) => (at += secondsOf(segment)));
};

/** When each stroke's place first grows dark in the video; `null` where it never does. */
function strokesSeen(file: string): (number | null)[] {
  const frames = decodeFrames(file, 30, SMALL);
  return STROKES_AT.map((_, n) => {
    const x = Math.round(placeOf(n) * SMALL.width);
    const row = Math.round(LOOKED_AT * SMALL.height) * SMALL.width;
    const isDark = (frame: Uint8Array) => [-1, 0, 1].some((dx) => frame[row + x + dx] < 195);
    const first = frames.findIndex(isDark);
    return first < 0 ? null : first * FRAME_SECONDS;
  });
}

describe('ink in the trail', () => {
  it('leads to the moment it was written in when it is touched, and can be taken out, put back and recoloured', async () => {
    await teacher.press('Trim');
    await playheadTo(await lengthOf());
    const { programme } = await edition();
    const meant = playsAt(programme, programme[0].take, (await inkSeconds())[6])!;
    await touchStroke(6);
    await teacher.sees('1 stroke');
    const playhead = await teacher.find('slider', 'Playhead');
    const at = async () => Number(await playhead.evaluate((one) => one.getAttribute('aria-valuenow'))) / CLOCK_HZ;
    await expect.poll(at).toBeCloseTo(meant, 1);
    await teacher.press('From the start');
    await saved();
    const [{ stroke, at: start }] = (await edition()).inkEdits;
    await playheadTo(0);
    expect(start).toBe('start');
    await teacher.press('Take out');
    await saved();
    expect((await edition()).inkEdits).toEqual([{ stroke, at: 'start', isOut: true }]);
    await teacher.press('Undo edit');
    await saved();
    await playheadTo(0);
    await touchStroke(6);
    await teacher.press('As recorded');
    await saved();
    expect((await edition()).inkEdits).toEqual([]);
    await playheadTo(await lengthOf());
    await touchStroke(6);
    await teacher.press('Colour');
    await (await teacher.page.waitForSelector('[aria-label="Colour of the strokes"] .dot:nth-child(3)'))!.click();
    await saved();
    const [{ color }] = (await edition()).inkEdits;
    expect(color).toMatch(/^#[0-9a-f]{6}$/);
    await teacher.page.keyboard.press('Escape');
    await teacher.press('Choose no ink');
  });

  async function touchStroke(n: number): Promise<void> {
    const box = (await (await teacher.find('image', 'Page')).boundingBox())!;
    await teacher.page.mouse.click(box.x + placeOf(n) * box.width, box.y + 0.45 * box.height);
  }
});

describe('chapters and captions', () => {
  it('are named, and read along by viewers where they are heard', async () => {
    await teacher.press('Chapters');
    const name = await teacher.find('textbox', 'Name of the chapter at 0:00');
    await name.click({ count: 3 });
    await name.type('Coil with the sun');
    await teacher.page.keyboard.press('Tab');
    await saved();
    await teacher.press('Captions');
    await teacher.press('Paste a script');
    await teacher.page.keyboard.type('Coil a laid line with the sun. Leave no kinks. Make it fast.');
    await teacher.press('Spread over the speech');
    await saved();
    const { captions, chapters } = await edition();
    expect(chapters.map(({ title }) => title)).toEqual(['Coil with the sun']);
    expect(captions.map(({ text }) => text)).toEqual([
      'Coil a laid line with the sun.',
      'Leave no kinks.',
      'Make it fast.',
    ]);
    await teacher.press('Share');
    await teacher.press('Share the edited trail');
    await teacher.sees('Whoever has this link can watch');
    const student = await Person.at(browser, await teacher.valueOf('textbox', 'Watch link'));
    await student.press('Transcript');
    await student.sees('Coil with the sun');
    await (await student.find('searchbox', 'Search the transcript')).type('kinks');
    await student.page.waitForFunction(() => document.querySelectorAll('.words').length === 1);
    await (await student.page.waitForSelector('.words'))!.click();
    await student.press('Captions');
    await student.page.waitForFunction(() => document.querySelector('.captions')?.textContent?.includes('no kinks'));
    await student.page.close();
    await teacher.page.bringToFront();
  });

  it('keep what is typed while the trail plays', async () => {
    await teacher.press('Trim');
    const slider = await teacher.find('slider', 'Playhead');
    const playhead = () => slider.evaluate((one) => Number(one.getAttribute('aria-valuenow')));
    const caption = await teacher.find('textbox', 'Caption at 0:00');
    await caption.click({ count: 3 });
    await teacher.press('Play');
    await caption.focus();
    const before = await playhead();
    for (const letter of 'Coil it slowly') {
      await teacher.page.keyboard.type(letter);
      // The trail goes on between one letter and the next, and draws all of it anew.
      const now = await playhead();
      await expect.poll(playhead, { interval: 20 }).not.toBe(now);
    }
    expect(await playhead()).not.toBe(before);
    expect(await caption.evaluate((field) => (field as HTMLTextAreaElement).value)).toMatch(/Coil it slowly$/);
    // Nothing more is typed: after a second it is kept, without leaving the field.
    await expect.poll(async () => (await edition()).captions[0].text).toMatch(/Coil it slowly$/);
    await teacher.press('Pause');
    await teacher.press('Undo edit');
    await saved();
  });

  it('are saved as WebVTT, brought in from SubRip, and a file of another kind changes nothing', async () => {
    await teacher.press('Trim');
    await teacher.press('Save as');
    await teacher.pick('WebVTT');
    await expect.poll(() => readdirSync(folder).includes('Coiling a line.vtt')).toBe(true);
    const written = readTimedText(readFileSync(join(folder, 'Coiling a line.vtt'), 'utf8'));
    expect(written.map(({ text }) => text)).toContain('Leave no kinks.');
    const srt = join(folder, 'other.srt');
    writeFileSync(srt, writeSubRip([{ startMs: 500, endMs: 2500, text: 'From a file' }]));
    await teacher.upload('Captions file', srt);
    await expect.poll(async () => (await edition()).captions.map(({ text }) => text)).toEqual(['From a file']);
    writeFileSync(srt, 'A letter home, and no captions at all.');
    await teacher.upload('Captions file', srt);
    await teacher.sees('These are no captions');
    expect((await edition()).captions).toHaveLength(1);
  });
});

describe('versions', () => {
  it('are kept by name; starting over plays all of it again, and can be undone after coming back', async () => {
    const tidied = await edition();
    await teacher.press('Versions');
    await teacher.fill('Name of the version', 'Short');
    await teacher.press('Keep');
    await teacher.sees('Short');
    await teacher.press('Start over');
    await saved();
    const { programme, inkEdits, captions } = await edition();
    expect([programme.length, inkEdits.length, captions.length]).toEqual([1, 0, 1]);
    await teacher.page.reload();
    await teacher.press('Undo edit');
    await expect.poll(edition).toEqual(tidied);
    await teacher.press('Redo edit');
    await expect.poll(async () => (await edition()).programme.length).toBe(1);
    // The panel lies open, as it did before.
    await teacher.press('Use Short');
    await expect.poll(edition).toEqual(tidied);
  });
});

describe('an edit', () => {
  it('that was made offline in a tab that was closed is there at the next visit', async () => {
    await teacher.page.goto(school.url);
    await (await teacher.page.waitForSelector('::-p-text(The rule of twelfths)'))!.click();
    await teacher.find('slider', 'Playhead');
    const offline = await Person.at(browser, teacher.page.url());
    await teacher.page.goto('about:blank');
    await offline.find('slider', 'Playhead');
    const { sound } = (await openLesson(offline)).edition;
    await offline.page.setOfflineMode(true);
    await offline.press('Sound');
    await offline.press('Even loudness', 'switch');
    await offline.sees('waiting for the network');
    const url = offline.page.url();
    await offline.page.close();
    await teacher.page.goto(url);
    await expect.poll(async () => (await edition()).sound.isEvened).toBe(!sound.isEvened);
  });

  it('is refused from a window that is behind, which is told and shows what is there', async () => {
    const other = await Person.at(browser, teacher.page.url());
    await other.find('slider', 'Playhead');
    await other.page.setOfflineMode(true);
    await other.press('Split');
    await other.sees('waiting for the network');
    await teacher.page.bringToFront();
    await teacher.press('Choose this part');
    await teacher.press('Silence');
    await saved();
    const before = await edition();
    await other.page.setOfflineMode(false);
    await other.page.bringToFront();
    await other.sees('was edited in another window');
    expect(await edition()).toEqual(before);
    await other.page.close();
  });
});
