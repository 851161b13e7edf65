import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, Person, savesInto } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { chaptersOf, complaintsAbout, decodeSound, probe } from './support/video';

const COMPASS = 'From chart to compass';
const CHAPTER = 'The course on the chart';
const NAME = `${COMPASS} ${CHAPTER}.mp4`;

let classroom: Classroom;
/** Of the same school, at a browser that has no encoders. */
let simple: Person;
let address: string;

beforeAll(async () => {
  classroom = await openClassroom();
  simple = await withoutEncoders(classroom);
  const lessons = await classroom.teacher.request<{ id: string; title: string }[]>('GET', '/lessons');
  address = `${classroom.school.url}/lesson/${lessons.find(({ title }) => title === COMPASS)!.id}/share`;
});
afterAll(async () => {
  await simple?.page.browser().close();
  await classroom?.close();
});

async function withoutEncoders({ school }: Classroom): Promise<Person> {
  const person = await Person.at(await openBrowser(), 'about:blank');
  await person.page.evaluateOnNewDocument(() => {
    delete (window as Partial<typeof globalThis>).VideoEncoder;
    delete (window as Partial<typeof globalThis>).AudioEncoder;
  });
  await person.page.goto(school.url);
  await person.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  return person;
}

/** Orders a video of a chapter, with the lesson's name before it and captions below the page. */
async function order(person: Person): Promise<void> {
  await person.page.goto(address);
  await person.press('More choices for the video');
  await person.choose('What it shows', '0');
  await person.choose('Captions', 'drawn');
  await (await person.find('checkbox', 'The lesson’s name, for three seconds before it')).click();
  await person.press('Make this video');
}

async function saved(person: Person): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-films-'));
  await savesInto(person.page.browser(), folder);
  await person.press(`Save ${NAME}`, 'link');
  await expect.poll(() => readdirSync(folder)).toContain(NAME);
  return join(folder, NAME);
}

/** How alike two videos' pictures are, all of them at one rate, by ffmpeg: 1 where they are the same. */
function likeness(one: string, other: string): number {
  const even = (input: string) => `[${input}:v]fps=10,format=yuv420p`;
  const graph = `${even('0')}[a];${even('1')}[b];[a][b]ssim=stats_file=-`;
  const args = ['-v', 'error', '-i', one, '-i', other, '-lavfi', graph, '-f', 'null', '-'];
  const all = execFileSync('ffmpeg', args, { encoding: 'utf8' }).matchAll(/All:([\d.]+)/g);
  const each = [...all].map(([, value]) => Number(value));
  expect(each.length).toBeGreaterThan(100);
  return each.toSorted((a, b) => a - b)[0];
}

describe('a browser without encoders', () => {
  it('has the school paint and encode: the same video, also when the network is away meanwhile', async () => {
    const hasBegun = simple.page.waitForResponse((response) => response.url().endsWith('/film-parts'));
    await order(simple);
    await hasBegun;
    const isLost = new Promise((resolve) => simple.page.once('requestfailed', resolve));
    await simple.page.setOfflineMode(true);
    await isLost;
    await simple.page.setOfflineMode(false);
    const file = await saved(simple);
    expect(complaintsAbout(file)).toBe('');
    expect(chaptersOf(file)).toEqual([{ startSeconds: 3, title: CHAPTER }]);
    const { streams } = probe(file);
    expect(streams.map(({ codec_name }) => codec_name).slice(0, 2)).toEqual(['h264', 'aac']);
    expect(decodeSound(file).some((sample) => Math.abs(sample) > 0.05)).toBe(true);

    await order(classroom.teacher);
    const own = await saved(classroom.teacher);
    expect(Number(probe(file).format.duration)).toBeCloseTo(Number(probe(own).format.duration), 1);
    expect(likeness(file, own)).toBeGreaterThan(0.97);
  });
});

describe('a school without an encoder', () => {
  it('says which browsers can make videos', async () => {
    const bare = await openClassroom({ environment: { FFMPEG: 'no-such-program' } });
    const person = await withoutEncoders(bare);
    try {
      const [{ id }] = await person.request<{ id: string }[]>('GET', '/lessons');
      await person.page.goto(`${bare.school.url}/lesson/${id}/share`);
      await person.press('Make a video');
      await person.sees('Use a current Chrome, Edge, Firefox or Safari');
    } finally {
      await person.page.browser().close();
      await bare.close();
    }
  });
});
