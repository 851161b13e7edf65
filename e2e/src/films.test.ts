import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { flatten } from '@kite-trail/core/trail/trail';
import { createFile, MP4BoxBuffer, type Movie } from 'mp4box';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person, savesInto } from './support/browser';
import { openElsewhere, openLesson, takeMarks } from './support/lessons';
import { givesFolder, inFolder } from './support/own-folder';
import { openClassroom, type Classroom } from './support/classroom';
import { chaptersOf, complaintsAbout, decodeFrames, decodeSound, probe } from './support/video';

const COMPASS = 'From chart to compass';
const CHAPTERS = ['The course on the chart', 'Variation and deviation', 'The sum', 'West is best'];
const FIRST_SECONDS = 12.6;

let classroom: Classroom;
let teacher: Person;
let address: string;
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-films-'));

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await savesInto(classroom.browser, folder);
  const lessons = await teacher.request<{ id: string; title: string }[]>('GET', '/lessons');
  address = `${classroom.school.url}/lesson/${lessons.find(({ title }) => title === COMPASS)!.id}/share`;
  await teacher.page.goto(address);
});
afterAll(() => classroom?.close());

/** Saves a file that was made, and puts it away. */
async function saved(name: string): Promise<string> {
  await teacher.press(`Save ${name}`, 'link');
  await expect.poll(() => readdirSync(folder)).toContain(name);
  await teacher.press(`Put ${name} away`);
  return join(folder, name);
}

/** Opens what lies behind “More”. @param what the number of a chapter, or `whole`, `chapters`, `stretch` */
async function wanting(what: string): Promise<void> {
  await teacher.press('More choices for the video');
  await teacher.find('dialog', 'A video the way you want it');
  await teacher.choose('What it shows', what);
}

const tick = async (name: string) => (await teacher.find('radio', name)).click();

/** What an MP4 reader that is none of ours says. */
function movieIn(file: string): Movie {
  const reader = createFile();
  let movie: Movie | null = null;
  reader.onReady = (info) => (movie = info);
  reader.appendBuffer(MP4BoxBuffer.fromArrayBuffer(new Uint8Array(readFileSync(file)).buffer, 0), true);
  reader.flush();
  if (!movie) throw new Error('It is no MP4.');
  return movie;
}

describe('a video the way one wants it', () => {
  it('is a WebM of a chapter, upright, with its captions in the file', async () => {
    await wanting('0');
    await tick('WebM, AV1: the smallest, plays in browsers');
    await tick('Upright, for phones');
    await teacher.choose('Size', '480');
    await teacher.press('Make this video');
    const name = `${COMPASS} ${CHAPTERS[0]}.webm`;
    const played = await (
      await teacher.find('link', `Save ${name}`)
    ).evaluate(async (link) => {
      const video = document.createElement('video');
      video.muted = true;
      video.src = (link as HTMLAnchorElement).href;
      await video.play();
      return [video.videoWidth, video.videoHeight, video.duration];
    });
    expect(played).toEqual([480, 854, expect.closeTo(FIRST_SECONDS, 0)]);
    const file = await saved(name);
    expect(complaintsAbout(file)).toBe('');
    const { streams, format } = probe(file);
    expect(streams.map(({ codec_name }) => codec_name).slice(0, 2)).toEqual(['av1', 'opus']);
    expect(streams).toHaveLength(3);
    // As Matroska's codec registry names captions (RFC 9559 and its registry).
    expect(readFileSync(file).includes('S_TEXT/WEBVTT')).toBe(true);
    expect(Number(format.duration)).toBeCloseTo(FIRST_SECONDS, 0);
    expect(chaptersOf(file)).toEqual([{ startSeconds: 0, title: CHAPTERS[0] }]);
    expect(decodeSound(file).some((sample) => Math.abs(sample) > 0.05)).toBe(true);
  });

  it('is an MP4 with the lesson’s name before it, and captions below the page', async () => {
    await wanting('0');
    await tick('MP4: plays everywhere');
    await tick('Square');
    await teacher.choose('Captions', 'drawn');
    await (await teacher.find('checkbox', 'The lesson’s name, for three seconds before it')).click();
    await teacher.press('Make this video');
    const file = await saved(`${COMPASS} ${CHAPTERS[0]}.mp4`);
    expect(complaintsAbout(file)).toBe('');
    const size = { width: 48, height: 48 };
    const frames = decodeFrames(file, 2, size);
    const brightest = (frame: Uint8Array, from: number, to: number) =>
      Math.max(...frame.subarray(from * size.width, to * size.width));
    const [title, page] = [frames[2], frames[7]];
    // The title lies in the middle; of the page, its paper does; and below it captions come and go.
    expect(brightest(title, 0, 9)).toBeLessThan(70);
    expect(brightest(title, 12, 36)).toBeGreaterThan(90);
    expect(brightest(page, 18, 24)).toBeGreaterThan(200);
    const captions = frames.slice(6).map((frame) => brightest(frame, 42, 48));
    expect(Math.max(...captions)).toBeGreaterThan(90);
    const { format, streams } = probe(file);
    expect(Number(format.duration)).toBeCloseTo(FIRST_SECONDS + 3, 0);
    expect(chaptersOf(file)).toEqual([{ startSeconds: 3, title: CHAPTERS[0] }]);
    // The sound begins where the lesson does, but for the packet that primes decoders.
    expect(Number(streams.find((one) => one.codec_type === 'audio')!.start_time)).toBeCloseTo(3 - 1024 / 48_000, 3);
  });

  it('has chapters, captions and its name where another reader finds them', async () => {
    await wanting('whole');
    await tick('Wide');
    await teacher.choose('Captions', 'track');
    await (await teacher.find('checkbox', 'The lesson’s name, for three seconds before it')).click();
    await teacher.press('Make this video');
    const file = await saved(`${COMPASS}.mp4`);
    expect(complaintsAbout(file)).toBe('');
    expect(chaptersOf(file).map(({ title }) => title)).toEqual(CHAPTERS);
    const movie = movieIn(file);
    expect(movie.isProgressive).toBe(true);
    expect(movie.tracks.map(({ codec }) => codec.split('.')[0])).toEqual(['avc1', 'mp4a', 'wvtt']);
    expect(movie.tracks[2].nb_samples).toBeGreaterThan(10);
    expect(probe(file).format.tags?.title).toBe(COMPASS);
  });

  it('is of the page at the playhead, for as long as it is shown', async () => {
    await (await teacher.find('slider', 'Playhead')).focus();
    await teacher.page.keyboard.press('End');
    await wanting('page');
    await tick('MP4: plays everywhere');
    await teacher.press('Make this video');
    const file = await saved(`${COMPASS} Page 2.mp4`);
    const { edition, takes } = await openLesson(teacher);
    const [{ id, lengthSamples }] = takes;
    const take = { id, lengthSamples, sound: null, marks: decodeMarks(await takeMarks(teacher)) };
    const trail = flatten(edition.programme, new Map([[id, take]]));
    const turn = trail.marks.findLast(({ kind }) => kind === 'turn')!;
    const seconds = (trail.lengthSamples - turn.atSamples) / CLOCK_HZ;
    expect(Number(probe(file).format.duration)).toBeCloseTo(seconds, 0);
  });

  it('is told to be too long where its end lies before its beginning', async () => {
    await wanting('stretch');
    const slider = await teacher.find('slider', 'To 1:11');
    await slider.focus();
    await teacher.page.keyboard.press('Home');
    await teacher.press('Make this video');
    await teacher.sees('The stretch ends before it begins');
    await teacher.press('Cancel');
  });
});

describe('the queue', () => {
  it('goes on at Home, in the next window when one is closed, and one after the other', async () => {
    await wanting('chapters');
    await teacher.choose('Size', '480');
    await teacher.press('Make the videos');
    await teacher.sees('Making 4 files');
    await teacher.press(`Pause ${COMPASS} ${CHAPTERS[0]}.mp4`);
    await teacher.sees('Paused');
    await teacher.press('All lessons', 'link');
    await teacher.sees('Making');
    const gone = teacher.page;
    teacher = await Person.at(classroom.browser, classroom.school.url);
    await gone.close();
    await teacher.sees('4 files made');
    await teacher.press('4 files made');
    for (const chapter of CHAPTERS) await teacher.find('link', `Save ${COMPASS} ${chapter}.mp4`);
    const name = `${COMPASS} ${CHAPTERS[1]}.mp4`;
    await teacher.press(`Save ${name}`, 'link');
    await expect.poll(() => readdirSync(folder)).toContain(name);
    expect(complaintsAbout(join(folder, name))).toBe('');
    await teacher.page.reload();
    await teacher.press('4 files made');
    for (const chapter of CHAPTERS) await teacher.press(`Put ${COMPASS} ${chapter}.mp4 away`);
    await teacher.isGone('button', '1 file made');
  });
});

describe('a page that is left while a film is made', () => {
  it('takes nothing along: the next one is there, and goes on with it', async () => {
    await teacher.page.goto(address);
    await wanting('whole');
    await teacher.choose('Size', '1080');
    await teacher.press('Make this video');
    // What is loaded anew ends the page at whatever its encoders are about; four in five of them took the tab along.
    for (const place of ['/', address, '/catalogue', address, '/', address]) {
      await teacher.sees('Making 1 file');
      await teacher.page.goto(new URL(place, address).href);
    }
    const name = `${COMPASS}.mp4`;
    await teacher.find('link', `Save ${name}`);
    await teacher.press(`Put ${name} away`);
  });
});

describe('a device that has no room left', () => {
  it('shares all the same, says why there is no film, and makes it when there is room', async () => {
    await teacher.page.goto(address);
    const devtools = await teacher.page.createCDPSession();
    const { origin } = new URL(address);
    await devtools.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: 1000 });
    await teacher.press('Make a watch link');
    await teacher.find('textbox', 'Watch link');
    await wanting('0');
    await teacher.press('Make this video');
    await teacher.sees('It was not made: This device has no room left for it.');
    await devtools.send('Storage.overrideQuotaForOrigin', { origin });
    const name = `${COMPASS} ${CHAPTERS[0]}.mp4`;
    await teacher.press(`Try ${name} again`);
    await teacher.find('link', `Save ${name}`);
    await teacher.press(`Put ${name} away`);
  });
});

describe('the sound alone', () => {
  it.each([
    ['aac', '.m4a', 'aac'],
    ['opus', '.opus', 'opus'],
    ['pcm-s16', '.wav', 'pcm_s16le'],
  ])('is a file with the lesson’s chapters: %s', async (kind, ending, codec) => {
    await teacher.page.goto(address);
    await openElsewhere(teacher);
    await teacher.choose('Kind of sound file', kind);
    await teacher.press('Make the sound file');
    const file = await saved(`${COMPASS}${ending}`);
    expect(complaintsAbout(file)).toBe('');
    const { streams, format } = probe(file);
    expect(streams.map(({ codec_name }) => codec_name)).toEqual([codec]);
    expect(Number(format.duration)).toBeCloseTo(71.9, 0);
    const expected = ending === '.wav' ? [] : CHAPTERS;
    expect(chaptersOf(file).map(({ title }) => title)).toEqual(expected);
  });
});

describe('a folder of the disk', () => {
  it('is chosen once, takes what is made again and again, and keeps what is there', async () => {
    await givesFolder(teacher, 'Lessons to take along');
    const name = `${COMPASS}.wav`;
    await teacher.press('Make the sound file');
    await teacher.press(`Put ${name} into a folder`);
    await teacher.sees(`It is in the folder “Lessons to take along”, as ${name}.`);
    await teacher.press(`Put ${name} into a folder`);
    await teacher.sees(`as ${COMPASS} 2.wav.`);
    const found = await inFolder(teacher, 'Lessons to take along');
    expect(Object.keys(found).sort()).toEqual([`${COMPASS} 2.wav`, name]);
    expect(new Set(Object.values(found)).size).toBe(1);
    expect(found[name]).toBeGreaterThan(1e6);
  });
});
