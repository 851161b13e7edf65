import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { HIGHEST_PEAK_DBTP, TARGET_LUFS } from '@kite-trail/core/sound/mastering';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { narrationFile } from '@kite-trail/demo/narration/files';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { savesInto } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { lessonOfSounds, type KeptSound } from './support/kept-takes';
import { bytesAt, publishedAt } from './support/lessons';
import { decodeSound } from './support/video';

/** How far what is served may be from what is promised. */
const TOLERANCE_LU = 0.5;
const SECONDS = 15;
/** A film of two minutes takes as long as the machine, and whatever else it does, let it. */
const FILM_TIMEOUT_MS = 150_000;
/** Mixing and encoding minutes of sound takes its time on a busy machine. */
const MIXED_WITHIN_MS = 90_000;

let classroom: Classroom;
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-e2e-'));

beforeAll(async () => {
  classroom = await openClassroom();
  await savesInto(classroom.browser, folder);
});
afterAll(() => classroom?.close());

/** The demo's voice, made into another one sample by sample; what is beyond full scale is cut off, as a microphone does. */
function voice(made: (sample: number, i: number) => number): KeptSound {
  const spoken = decodeSound(narrationFile('tide-lesson')).subarray(0, SECONDS * CLOCK_HZ);
  const samples = spoken.map((sample, i) => Math.max(-1, Math.min(1, made(sample, i))));
  const raw = join(folder, 'voice.raw');
  writeFileSync(raw, Buffer.from(samples.buffer));
  const input = ['-v', 'error', '-f', 'f32le', '-ar', String(CLOCK_HZ), '-ac', '1', '-i', raw];
  const sound = execFileSync('ffmpeg', [...input, '-c:a', 'libopus', '-b:a', '48k', '-f', 'ogg', '-']);
  return { sound, lengthSamples: samples.length };
}

/** A whisper is some 20 dB below speech; by up to 30 dB voices are made louder. */
const whisper = () => voice((sample) => sample * 0.08);
const shout = () => voice((sample) => sample * 9);
/** A pen that knocks on the table, twice a second, while somebody speaks. */
const clicks = () => voice((sample, i) => sample * 0.3 + (i % 24_000 < 4 ? 0.95 : 0));

/** What ffmpeg's meter says of a file that is heard from two loudspeakers (libavfilter's ebur128, `dualmono`). */
function measured(file: string): { lufs: number; peakDb: number } {
  const filter = 'ebur128=peak=true:dualmono=true';
  const { stderr } = spawnSync('ffmpeg', ['-i', file, '-map', 'a', '-af', filter, '-f', 'null', '-'], {
    encoding: 'utf8',
  });
  const told = (name: RegExp) => Number(name.exec(stderr.slice(stderr.lastIndexOf('Summary')))![1]);
  return { lufs: told(/I:\s+(\S+)/), peakDb: told(/Peak:\s+(\S+)/) };
}

function expectPromised(name: string, file: string): void {
  const { lufs, peakDb } = measured(file);
  console.log(`${name}: ${lufs} LUFS, ${peakDb} dBTP`);
  expect(Math.abs(lufs - TARGET_LUFS)).toBeLessThanOrEqual(TOLERANCE_LU);
  expect(peakDb).toBeLessThanOrEqual(HIGHEST_PEAK_DBTP);
}

/** Shares the open lesson by a link, and saves the sound that watchers get. */
async function servedSound(name: string): Promise<string> {
  const { teacher } = classroom;
  await teacher.press('Share');
  await teacher.press('Make a watch link');
  await teacher.sees('Whoever has this link can watch', MIXED_WITHIN_MS);
  const token = (await teacher.valueOf('textbox', 'Watch link')).split('/').at(-1)!;
  const file = join(folder, `${name}.m4a`);
  writeFileSync(file, await bytesAt(teacher, `${await publishedAt(teacher, token)}/sound`));
  return file;
}

describe('the loudness of what is served', () => {
  it.each([
    ['a whisper', () => [whisper()]],
    ['a shout', () => [shout()]],
    ['clicks', () => [clicks()]],
    ['a whisper and a shout', () => [whisper(), shout()]],
  ])('is what is promised for %s', async (name, sounds) => {
    const { teacher, school } = classroom;
    const id = await lessonOfSounds(teacher, name, sounds());
    await teacher.page.goto(`${school.url}/lesson/${id}`);
    expectPromised(name, await servedSound(name));
  });

  it.each([
    ['The rule of twelfths', 'link'],
    ['From chart to compass', 'link and film'],
  ])('is what is promised for the demo’s “%s”, by %s', async (title, way) => {
    const { teacher, school } = classroom;
    await teacher.page.goto(school.url);
    const lessons = await teacher.request<{ id: string; title: string }[]>('GET', '/lessons');
    await teacher.page.goto(`${school.url}/lesson/${lessons.find((one) => one.title === title)!.id}`);
    expectPromised(`${title}, link`, await servedSound(title));
    if (way === 'link') return;
    await teacher.press('Make a video');
    const made = `::-p-aria([name="Save ${title}.mp4"][role="link"])`;
    await teacher.page.waitForSelector(made, { timeout: FILM_TIMEOUT_MS });
    await teacher.press(`Save ${title}.mp4`, 'link');
    const saved = () => readdirSync(folder).find((name) => name === `${title}.mp4`);
    await expect.poll(saved).toBeDefined();
    const film = join(folder, saved()!);
    await expect.poll(() => readFileSync(film).length).toBeGreaterThan(100_000);
    expectPromised(`${title}, film`, film);
  });
});
