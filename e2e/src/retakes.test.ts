import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { StretchPlan, TakePlan } from '@kite-trail/core/trail/plan';
import { programmeLength, takesIn, type Segment, playsAsRecorded } from '@kite-trail/core/trail/programme';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person } from './support/browser';
import { nearest, writeClicks } from './support/clicks';
import { forgetPens, heardPens, noteHeardPens } from './support/heard';
import { bytesAt, openLesson, publishedAt } from './support/lessons';
import { clicksAt, meantClicks, secondsOf } from './support/programme';
import { untilRecorded } from './support/recording';
import { School } from './support/school';

/** Between clicks of the first take, and of those that are recorded later. */
const FIRST_GAP = 1;
const LATER_GAP = 0.4;
/** What codecs may do to a click's foot. */
const TOLERANCE = 0.002;

let school: School;
let browser: Browser;
let teacher: Person;
let lessonUrl: string;
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-e2e-'));

/** A day at the desk: a browser whose microphone hears clicks so far apart. */
async function openDay(gap: number): Promise<void> {
  await browser?.close();
  const microphone = join(folder, `clicks-${gap}.wav`);
  writeClicks(
    microphone,
    60,
    Array.from({ length: Math.floor(58 / gap) }, (_, i) => 0.5 + i * gap),
  );
  browser = await openBrowser({ microphone });
  teacher = await Person.at(browser, 'about:blank');
  await noteHeardPens(teacher.page);
  await teacher.page.goto(school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
}

beforeAll(async () => {
  school = await School.start();
  await openDay(FIRST_GAP);
  await teacher.press('New lesson');
  await teacher.fill('Name', 'Picking up a mooring');
  await teacher.press('Make the lesson');
  await teacher.find('image', 'Page to write on');
  lessonUrl = teacher.page.url();
});
afterAll(async () => {
  await browser?.close();
  await school?.close();
});

async function stopAndSend(): Promise<void> {
  await teacher.press('Stop');
  await teacher.find('slider', 'Playhead');
  await expect.poll(async () => (await openLesson(teacher)).takes.every((take) => take.ended)).toBe(true);
  await expect.poll(async () => (await openLesson(teacher)).edition.programme.length).toBeGreaterThan(0);
}

/** Chooses the stretch between two moments of the trail. */
async function chooseStretch(fromSeconds: number, toSeconds: number): Promise<void> {
  await teacher.press('Record');
  await teacher.press('Choose a stretch');
  await moveTo('Start of the stretch', fromSeconds);
  await moveTo('End of the stretch', toSeconds);
}

async function moveTo(slider: string, seconds: number): Promise<void> {
  const handle = await teacher.find('slider', slider);
  await handle.focus();
  const isStart = slider.startsWith('Start');
  await teacher.page.keyboard.press(isStart ? 'Home' : 'End');
  const at = async () => Number(await handle.evaluate((one) => one.getAttribute('aria-valuenow'))) / CLOCK_HZ;
  for (const [step, forward, back] of [
    [1, 'ArrowRight', 'ArrowLeft'],
    [0.1, 'ArrowUp', 'ArrowDown'],
  ] as const) {
    for (let now = await at(); Math.abs(now - seconds) >= step; now = await at()) {
      await teacher.page.keyboard.press(now < seconds ? forward : back);
    }
  }
}

/** When each stroke of a take begins in it. */
async function takeInk(take: string): Promise<number[]> {
  return decodeMarks(await bytesAt(teacher, `/takes/${take}/marks`))
    .filter((mark) => mark.kind === 'ink')
    .map((mark) => mark.atSamples / CLOCK_HZ);
}

async function openTakes(): Promise<void> {
  if (!(await teacher.page.$('section[aria-label=Takes]'))) await teacher.press('Takes');
}

/** Shares the trail as it is now. @returns when clicks are heard by students */
async function sharedClicks(): Promise<number[]> {
  await teacher.press('Share');
  const link = await teacher.page.$('input[aria-label="Watch link"]');
  await teacher.press(link ? 'Share the edited trail' : 'Make a watch link');
  await teacher.sees('Whoever has this link can watch');
  return sharedOnce();
}

/** When clicks are heard by students in what is shared already, as ffmpeg decodes it. */
async function sharedOnce(): Promise<number[]> {
  const token = (await teacher.valueOf('textbox', 'Watch link')).split('/').at(-1)!;
  return clicksAt(teacher, `${await publishedAt(teacher, token)}/sound`);
}

/** Clicks cut by a splice's fade may or may not be heard; all others must agree. */
function expectAlike(heard: readonly number[], meant: readonly number[], splices: readonly number[]): void {
  const isClear = (at: number) => splices.every((splice) => Math.abs(splice - at) > 0.25);
  const [one, other] = [heard.filter(isClear), meant.filter(isClear)];
  const worst = Math.max(...one.map((at, i) => Math.abs(at - (other[i] ?? Infinity))));
  console.log(`${one.length} clicks heard, ${other.length} meant; off by at most ${(worst * 1000).toFixed(1)} ms`);
  expect(one).toHaveLength(other.length);
  expect(worst).toBeLessThan(TOLERANCE);
}

const gapsBetween = (clicks: readonly number[], from: number, to: number) => {
  const inside = clicks.filter((at) => at > from && at < to);
  return inside.slice(1).map((at, i) => at - inside[i]);
};

/**
 * The clicks are those of a day's microphone: as far apart as meant, and nowhere nearer to how far apart they are on the other
 * day. A stall of the simulated device itself may take sound away once.
 */
function expectGaps(gaps: readonly number[], meant: number): void {
  const offs = gaps.map((gap) => Math.abs(gap - meant));
  expect(Math.max(...offs)).toBeLessThan((FIRST_GAP - LATER_GAP) / 2);
  expect(offs.filter((off) => off >= 0.05).length).toBeLessThanOrEqual(1);
}

describe('a lesson that is mended', () => {
  it('is recorded on one day, with a stroke every second', async () => {
    await teacher.press('Record this lesson');
    await teacher.find('button', 'Pause');
    for (let n = 0; n < 9; n++) {
      await untilRecorded(teacher, n + 1);
      await teacher.stroke([0.1, 0.05 + n * 0.1], [0.5, 0.05 + n * 0.1], 6);
    }
    await untilRecorded(teacher, 11);
    await stopAndSend();
    const { takes } = await openLesson(teacher);
    expect(takes[0].lengthSamples).toBeGreaterThan(11 * CLOCK_HZ);
    const gaps = gapsBetween(await sharedClicks(), 0, 20);
    expect(gaps.length).toBeGreaterThan(8);
    expectGaps(gaps, FIRST_GAP);
  });

  it('gets a stretch done over on the next, after a run-up; what follows stays', async () => {
    await openDay(LATER_GAP);
    await teacher.page.goto(lessonUrl);
    await chooseStretch(4, 7);
    const [first] = (await openLesson(teacher)).takes;
    await teacher.press('Retake the stretch');
    await teacher.press('Cancel');
    // Nothing came of it, and it can be begun again.
    await teacher.press('Retake the stretch');
    await teacher.sees('Run-up');
    await teacher.sees(/Yours in\s+[123]/);
    await teacher.find('button', 'Pause');
    // What was written before the stretch is there, and nothing after it.
    await untilRecorded(teacher, 1);
    await teacher.stroke([0.6, 0.2], [0.9, 0.8], 8);
    await untilRecorded(teacher, 4);
    await stopAndSend();
    await teacher.press('Hear the one before');
    await teacher.sees('You hear The one before');
    await teacher.press('Hear the new one');
    await teacher.isGone('button', 'Back to the trail');
    const {
      takes,
      edition: { programme },
    } = await openLesson(teacher);
    expect(takes).toHaveLength(2);
    const retake = takes[1];
    expect(retake.plan.kind).toBe('retake');
    const strokesOfFirst = (await takeInk(first.id)).filter((at) => at < 4 || at >= 7);
    expect(strokesOfFirst.length).toBeLessThan(9);
    expect(await takeInk(retake.id)).toHaveLength(1);
    const timed = programme.filter(playsAsRecorded);
    expect(timed.map(({ take }) => take)).toEqual([first.id, retake.id, first.id]);
  });

  it('gets it done once more, and any of its takes can be used again', async () => {
    await teacher.press('Once more');
    await teacher.find('button', 'Pause');
    await untilRecorded(teacher, 1);
    await stopAndSend();
    const playing = async () => takesIn((await openLesson(teacher)).edition.programme);
    const [, second, third] = (await openLesson(teacher)).takes.map(({ id }) => id);
    expect(await playing()).toContain(third);
    await teacher.press('Use the one before');
    await expect.poll(playing).toContain(second);
    await openTakes();
    await teacher.press('Use Take 3');
    await expect.poll(playing).toContain(third);
    await teacher.press('Use Take 2');
    await expect.poll(playing).toContain(second);
    expect((await openLesson(teacher)).edition.programme.filter(playsAsRecorded)).toHaveLength(3);
    await teacher.press('Hear Take 1');
    await teacher.sees('You hear Take 1');
    await teacher.press('Back to the trail');
  });

  it('sounds to students as it was mended: other clicks in the retake, the first ones around it', async () => {
    const { takes } = await openLesson(teacher);
    const seconds = takes[1].lengthSamples / CLOCK_HZ;
    const clicks = await sharedClicks();
    expectAlike(clicks, await meantClicks(teacher), [4, 4 + seconds]);
    expectGaps(gapsBetween(clicks, 4.3, 3.7 + seconds), LATER_GAP);
    expectGaps(gapsBetween(clicks, 4.3 + seconds, 20), FIRST_GAP);
  });

  it('gets a new voice over a stretch of old ink, which waits when it is told to', async () => {
    const before = await openLesson(teacher);
    const lengthBefore = programmeLength(before.edition.programme);
    await chooseStretch(1, 3);
    await teacher.press('New voice');
    await teacher.find('button', 'Hold ink');
    await untilRecorded(teacher, 1);
    await teacher.press('Hold ink');
    await untilRecorded(teacher, 3);
    await teacher.press('Ink on');
    await untilRecorded(teacher, 5);
    await stopAndSend();
    const {
      takes,
      edition: { programme },
    } = await openLesson(teacher);
    const spoken = takes.at(-1)!;
    expect(spoken.plan.kind).toBe('re-speak');
    expect(await takeInk(spoken.id)).toEqual([]);
    const { replaced, holds } = spoken.plan as Extract<TakePlan, { kind: 're-speak' }>;
    const grown = programmeLength(programme) - lengthBefore;
    // Samples are not lost: the trail grew by what was spoken beyond the stretch.
    expect(grown).toBe(spoken.lengthSamples - programmeLength(replaced));
    expect(holds).toHaveLength(1);
    expect(holds[0].forSamples / CLOCK_HZ).toBeGreaterThan(1);
    await teacher.press('Use the new one');
    const clicks = await sharedClicks();
    expectAlike(clicks, await meantClicks(teacher), splicesOf(programme));
    expectGaps(gapsBetween(clicks, 1.3, 0.7 + spoken.lengthSamples / CLOCK_HZ), LATER_GAP);
  });

  it('gets new ink under a stretch of old voice, in time with what is heard', async () => {
    await teacher.press('Share');
    const heardBefore = await sharedOnce();
    const before = await openLesson(teacher);
    await chooseStretch(1, 4);
    await teacher.press('New ink');
    await teacher.find('button', 'Pause');
    await untilRecorded(teacher, 1);
    await forgetPens(teacher.page);
    await teacher.stroke([0.6, 0.1], [0.9, 0.1], 6);
    await untilRecorded(teacher, 2);
    await teacher.stroke([0.6, 0.3], [0.9, 0.3], 6);
    const heard = await heardPens(teacher.page);
    await untilRecorded(teacher, 3);
    await stopAndSend();
    const {
      takes,
      edition: { programme },
    } = await openLesson(teacher);
    const written = takes.at(-1)!;
    expect(written.hasSound).toBe(false);
    expect(takes).toHaveLength(before.takes.length + 1);
    const from = (written.plan as StretchPlan).fromSamples / CLOCK_HZ;
    const offsets = (await takeInk(written.id)).map((at, n) => {
      const off = from + at - nearest(heardBefore, from + at) - heard[n];
      // Half-way between two clicks, another one may be the nearest.
      return Math.min(Math.abs(off), Math.abs(Math.abs(off) - LATER_GAP), Math.abs(Math.abs(off) - FIRST_GAP));
    });
    console.log(
      `new ink is off the voice that was heard by ${offsets.map((one) => `${(one * 1000).toFixed(1)} ms`).join(', ')}`,
    );
    expect(offsets).toHaveLength(2);
    for (const offset of offsets) expect(offset).toBeLessThan(0.01);
    await teacher.press('Use the new one');
    const clicks = await sharedClicks();
    // Not one click has moved.
    expectAlike(
      clicks.filter((at) => at < 4),
      heardBefore.filter((at) => at < 4),
      [1, ...splicesOf(programme)],
    );
  });

  it('takes in a take at the playhead, and carries on at its end', async () => {
    await teacher.press('Record');
    const playhead = await teacher.find('slider', 'Playhead');
    await playhead.focus();
    await teacher.page.keyboard.press('Home');
    await teacher.page.keyboard.press('ArrowRight');
    await teacher.press('Record here, at the playhead');
    await teacher.find('button', 'Pause');
    await untilRecorded(teacher, 1);
    await stopAndSend();
    const {
      takes,
      edition: { programme },
    } = await openLesson(teacher);
    const timed = programme.filter(playsAsRecorded);
    expect(timed[0].toSamples).toBe(CLOCK_HZ);
    expect(timed[1].take).toBe(takes.at(-1)!.id);
    await teacher.press('Record');
    await teacher.press('Add a page');
    await teacher.press('Record this lesson');
    // Whoever turns the page while seconds are counted begins there.
    await teacher.find('button', 'Cancel');
    await teacher.page.keyboard.press('PageUp');
    await teacher.find('button', 'Pause');
    await untilRecorded(teacher, 1);
    await stopAndSend();
    const after = await openLesson(teacher);
    const last = after.takes.at(-1)!;
    expect(after.edition.programme.at(-1)!.take).toBe(last.id);
    const opening = decodeMarks(await bytesAt(teacher, `/takes/${last.id}/marks`)).filter(
      ({ atSamples }) => atSamples === 0,
    );
    expect(opening.map(({ kind }) => kind)).toEqual(['add-page', 'turn', 'turn', 'turn']);
    expect(opening.at(-1)).toMatchObject({ kind: 'turn', page: after.pages[0].page.id });
  });

  it('lists its takes, which can be named, put into the bin, and put back', async () => {
    await openTakes();
    const { takes, edition } = await openLesson(teacher);
    const last = `Take ${takes.length}`;
    await teacher.fill(`Name of ${last}`, 'A slip of the tongue');
    await teacher.page.keyboard.press('Tab');
    await teacher.find('button', 'Put A slip of the tongue into the bin');
    await teacher.press('Put A slip of the tongue into the bin');
    await expect
      .poll(async () => (await openLesson(teacher)).takes.find(({ name }) => name === 'A slip of the tongue')?.isBinned)
      .toBe(true);
    expect(takesIn((await openLesson(teacher)).edition.programme)).not.toContain(takes.at(-1)!.id);
    await teacher.press('Bin (1)');
    await teacher.press('Put A slip of the tongue back');
    // It plays where it played.
    await expect.poll(async () => (await openLesson(teacher)).edition.programme).toEqual(edition.programme);
    await teacher.isGone('button', 'Put A slip of the tongue back');
  });
});

const splicesOf = (programme: readonly Segment[]): number[] => {
  let at = 0;
  return programme.map((segment) => (at += secondsOf(segment)));
};
