import { existsSync, mkdtempSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import type { Watch } from '@kite-trail/core/contract/watch';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { CLOCK_HZ, secondsToSamples } from '@kite-trail/core/trail/clock';
import { programmeLength } from '@kite-trail/core/trail/programme';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openClassroom, type Classroom } from './support/classroom';
import { Person } from './support/browser';
import { firefoxViewer, openFirefox } from './support/firefox';
import { bytesAt, openLesson } from './support/lessons';
import { untilRecorded } from './support/recording';
import { SoundDevice } from './support/sound-device';
import { complaintsAbout, decodeSound, probe } from './support/video';
import type { Viewer } from './support/viewer';
import { dragTo, secondsWatched, shareFromHome } from './support/watching';
import { webkitViewer } from './support/webkit';

let classroom: Classroom;
let sound: SoundDevice;
let link: string;

beforeAll(async () => {
  sound = await SoundDevice.open();
  classroom = await openClassroom();
  link = await shareFromHome(classroom.teacher, 'From chart to compass');
});
afterAll(async () => {
  await classroom?.close();
  await sound?.close();
});

// Whether a browser plays is heard: what it says of it is not enough.
describe.each([
  { name: 'Firefox', start: firefoxViewer },
  { name: 'WebKit', start: webkitViewer },
])('the watch page in another browser: $name', ({ start }) => {
  let student: Viewer;

  beforeAll(async () => {
    student = await start(sound.environment);
    await student.open(link);
  });
  afterAll(() => student?.close());

  const text = () => student.run(() => document.body.innerText);
  const seconds = () => secondsWatched(student);
  const goTo = (at: number) => dragTo(student, at);
  /** How much of the page is ink just now. */
  const darkness = () =>
    student.run(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[role=img]')!;
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      let count = 0;
      for (let at = 0; at < data.length; at += 4) if (data[at] < 60 && data[at + 3] > 200) count++;
      return count;
    });
  /** Where on the screen the lowest ink of the page is just now. */
  const lowestInk = () =>
    student.run(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[role=img]')!;
      const { data, width } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      let at = data.length - 4;
      while (at >= 0 && data[at] >= 60) at -= 4;
      const { x, y, width: shown } = canvas.getBoundingClientRect();
      const scale = shown / width;
      return { x: x + ((at / 4) % width) * scale, y: y + Math.floor(at / 4 / width) * scale };
    });

  it('opens, and shows what is written by then', async () => {
    await expect.poll(text).toContain('From chart to compass');
    await expect.poll(darkness).toBeGreaterThan(0);
    const prepared = await darkness();
    await goTo(28);
    await expect.poll(darkness).toBeGreaterThan(prepared * 1.2);
    await goTo(0);
    await expect.poll(darkness).toBeLessThan(prepared * 1.1);
  });

  it('plays: the voice is heard, and ink comes with it', async () => {
    const before = await darkness();
    expect(await sound.hear(0.5)).toBeLessThan(0.001);
    await student.press('Play');
    await expect.poll(seconds).toBeGreaterThan(1);
    expect(await sound.hear(3)).toBeGreaterThan(0.01);
    expect(await darkness()).toBeGreaterThan(before);
    await student.press('Pause');
    const at = await seconds();
    expect(await sound.hear(1)).toBeLessThan(0.001);
    expect(await seconds()).toBe(at);
  });

  it('goes where it is told, and plays from there', async () => {
    await goTo(36);
    await student.press('Play');
    await expect.poll(seconds).toBeGreaterThan(37);
    expect(await sound.hear(2)).toBeGreaterThan(0.01);
    await student.press('Pause');
    expect(await seconds()).toBeLessThan(60);
  });

  it('is heard from where a mark was made that is touched', async () => {
    const before = await lowestInk();
    await goTo(58);
    // Once all is painted, it stays.
    let ink = before;
    const isAt = (one: typeof ink, other: typeof ink) => one.x === other.x && one.y === other.y;
    await expect
      .poll(async () => {
        const last = ink;
        ink = await lowestInk();
        return isAt(ink, last) && !isAt(ink, before);
      })
      .toBe(true);
    await student.clickAt(ink.x, ink.y);
    // The lowest line by then is written from three quarters of a minute on.
    await expect.poll(seconds).toBeLessThan(57.5);
    const at = await seconds();
    expect(at).toBeGreaterThan(45);
    await expect.poll(seconds).toBeGreaterThan(at + 0.5);
    expect(await sound.hear(2)).toBeGreaterThan(0.01);
  });

  it('has captions that follow, and a transcript', async () => {
    await student.press('Captions');
    await goTo(34);
    await expect
      .poll(() => student.run(() => document.querySelector('.captions')?.textContent ?? ''))
      .toContain('true, variation, magnetic');
    await student.press('Transcript');
    await expect.poll(text).toContain('You have drawn your course on the chart.');
  });

  it('plays without a network what was watched before', async () => {
    await student.open(link);
    await expect
      .poll(() =>
        student.run(() => {
          const state = window as unknown as { kept?: boolean };
          void caches
            .keys()
            .then((names) => Promise.all(names.map(async (one) => (await caches.open(one)).keys())))
            .then((kept) => (state.kept = kept.flat().some(({ url }) => url.endsWith('/sound'))));
          return state.kept;
        }),
      )
      .toBe(true);
    const { school } = classroom;
    await school.kill();
    await student.open(link);
    await student.press('Play');
    await expect.poll(seconds).toBeGreaterThan(1);
    expect(await sound.hear(2)).toBeGreaterThan(0.01);
    await student.press('Pause');
    await school.begin();
  });
});

describe('a teacher at Firefox', () => {
  it('writes, records, trims, shares and makes a film', { timeout: 300_000 }, async () => {
    const folder = mkdtempSync(join(tmpdir(), 'kite-trail-films-'));
    const browser = await openFirefox(sound.environment, folder);
    const teacher = await Person.at(browser, classroom.school.url);
    await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
    await teacher.page.evaluate(() => localStorage.setItem('kite-trail-countdown', '0'));
    await teacher.press('New lesson');
    await teacher.fill('Name', 'In Firefox');
    await teacher.press('Make the lesson');
    await teacher.drawLine([
      [0.2, 0.2],
      [0.5, 0.3],
      [0.8, 0.2],
    ]);
    await teacher.sees(/^Saved$/m);

    await teacher.press('Record this lesson');
    await teacher.find('button', 'Pause');
    await teacher.drawLine([
      [0.2, 0.5],
      [0.5, 0.6],
      [0.8, 0.5],
    ]);
    await untilRecorded(teacher, 5);
    await teacher.drawLine([
      [0.2, 0.7],
      [0.5, 0.8],
      [0.8, 0.7],
    ]);
    await teacher.press('Stop');
    await teacher.press('Play');
    expect(await sound.hear(2)).toBeGreaterThan(0.01);
    await teacher.press('Pause');
    const recorded = await openLesson(teacher);
    const length = programmeLength(recorded.edition.programme);
    expect(length).toBeGreaterThan(secondsToSamples(5));
    const marks = decodeMarks(await bytesAt(teacher, `/takes/${recorded.takes[0].id}/marks`));
    expect(marks.filter(({ kind }) => kind === 'ink')).toHaveLength(2);

    await teacher.press('Trim');
    await (await teacher.find('slider', 'Playhead')).focus();
    for (const key of ['Home', '[', 'ArrowRight', ']'] as const) await teacher.page.keyboard.press(key);
    await teacher.press('Cut, keep ink');
    await expect
      .poll(async () => programmeLength((await openLesson(teacher)).edition.programme))
      .toBe(length - secondsToSamples(1));

    await teacher.press('Share');
    await teacher.press('Make a watch link');
    const watched = await teacher.valueOf('textbox', 'Watch link');
    const { lengthSamples } = await teacher.request<Watch>('GET', `/watch/${watched.split('/').at(-1)}`);
    expect(lengthSamples).toBe(length - secondsToSamples(1));

    await teacher.press('Make a video');
    await teacher.press('Save In Firefox.mp4', 'link');
    const file = join(folder, 'In Firefox.mp4');
    await expect.poll(() => existsSync(file) && statSync(file).size > 0 && !existsSync(`${file}.part`)).toBe(true);
    expect(complaintsAbout(file)).toBe('');
    const { streams, format } = probe(file);
    // Its cover is a picture, too.
    expect(streams.map(({ codec_name }) => codec_name).sort()).toEqual(['aac', 'h264', 'mjpeg']);
    expect(Number(format.duration)).toBeCloseTo(lengthSamples / CLOCK_HZ, 0);
    expect(decodeSound(file).some((sample) => Math.abs(sample) > 0.05)).toBe(true);
    await browser.close();
  });
});

describe('a teacher at WebKit', () => {
  it('hears the trail', async () => {
    const teacher = await webkitViewer(sound.environment);
    await teacher.open(classroom.school.url);
    await teacher.run(
      (email, password, header, version) => {
        const headers = { 'content-type': 'application/json', [header]: version };
        void fetch('/api/session', { method: 'POST', headers, body: JSON.stringify({ email, password }) }).then(
          ({ ok }) => ok && (document.title = 'Signed in'),
        );
      },
      DEMO_TEACHER.email,
      DEMO_TEACHER.password,
      PROTOCOL.header,
      String(PROTOCOL.version),
    );
    await expect.poll(() => teacher.run(() => document.title)).toBe('Signed in');
    await teacher.open(`${classroom.teacher.page.url().replace(/share$/, 'trim')}`);
    await teacher.press('Play');
    expect(await sound.hear(3)).toBeGreaterThan(0.01);
    await teacher.press('Pause');
    await teacher.close();
  });
});
