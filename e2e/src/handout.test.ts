import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodePayload } from '@kite-trail/core/formats/payload';
import { paintPage } from '@kite-trail/core/paint/painter';
import { timelineOf } from '@kite-trail/core/formats/payload';
import { createCanvas, loadImage, type Image } from '@napi-rs/canvas';
import jsQr from 'jsqr';
import type { Target } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { savesInto, type Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';

const WORKSHEET = 'Heights of tide: the worksheet';
const PDF = 'Heights of tide the worksheet.pdf';
const COMPASS = 'From chart to compass';
const CHAPTERS = ['The course on the chart', 'Variation and deviation', 'The sum', 'West is best'];
const DPI = 72;

let classroom: Classroom;
let teacher: Person;
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-handouts-'));

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await savesInto(classroom.browser, folder);
});
afterAll(() => classroom?.close());

async function openShare(title: string): Promise<string> {
  const lessons = await teacher.request<{ id: string; title: string }[]>('GET', '/lessons');
  const { id } = lessons.find((one) => one.title === title)!;
  await teacher.page.goto(`${classroom.school.url}/lesson/${id}/share`);
  return id;
}

async function saved(name: string): Promise<string> {
  await teacher.press(`Save ${name}`, 'link');
  await expect.poll(() => readdirSync(folder)).toContain(name);
  await teacher.press(`Put ${name} away`);
  return join(folder, name);
}

const tool = (name: string, ...args: string[]) => execFileSync(name, args, { encoding: 'utf8' });
/** What a text says, wherever its lines are broken. */
const words = (text: string) => text.split(/\s+/).filter(Boolean);

async function drawn(file: string, page: number, dpi = DPI): Promise<Image> {
  const target = join(folder, `page-${page}-${dpi}`);
  execFileSync('pdftoppm', [
    '-r',
    String(dpi),
    '-png',
    '-singlefile',
    '-f',
    String(page),
    '-l',
    String(page),
    file,
    target,
  ]);
  return loadImage(readFileSync(`${target}.png`));
}

function pixels(image: Image): { data: Uint8ClampedArray; width: number; height: number } {
  const context = createCanvas(image.width, image.height).getContext('2d');
  context.drawImage(image, 0, 0);
  return { data: context.getImageData(0, 0, image.width, image.height).data, width: image.width, height: image.height };
}

/** A phone's way to hand files on, which notes what it was given. */
const sharing = () => {
  const given: [string, string, number][] = [];
  Object.assign(window, { given });
  Object.assign(navigator, {
    canShare: ({ files }: { files: File[] }) => files.length > 0,
    share: async ({ files }: { files: File[] }) => void given.push([files[0].name, files[0].type, files[0].size]),
  });
};

describe('a hand-out of an imported PDF', () => {
  it('can be opened to print, and be sent on', async () => {
    await teacher.page.evaluateOnNewDocument(sharing);
    await openShare(WORKSHEET);
    await teacher.press('Make a hand-out');
    await teacher.press(`Send ${PDF} on`);
    const given = () => teacher.page.evaluate(() => (window as unknown as { given: unknown[] }).given);
    await expect.poll(given).toEqual([[PDF, 'application/pdf', expect.any(Number)]]);
    const opened = new Promise<Target>((resolve) => classroom.browser.once('targetcreated', resolve));
    await teacher.press(`Open ${PDF} to print`);
    const tab = await opened;
    expect(tab.type()).toBe('page');
    await (await tab.page())?.close();
    await teacher.page.bringToFront();
    await teacher.press(`Put ${PDF} away`);
  });

  it('keeps its text, whole, with the ink drawn over it', async () => {
    await openShare(WORKSHEET);
    await teacher.press('Make a hand-out');
    const file = await saved(PDF);
    // qpdf exits with an error where anything is wrong.
    expect(tool('qpdf', '--check', file)).toContain('No syntax or stream encoding errors');
    expect(tool('pdfinfo', file)).toMatch(/Title: +Heights of tide: the worksheet[\s\S]*Pages: +3/);
    const original = new URL('../../demo/worksheet/heights-of-tide.pdf', import.meta.url).pathname;
    const [before, after] = [original, file].map((one) => words(tool('pdftotext', one, '-')));
    const labels = ['Page', '1', 'Page', '2', 'Page', '3'];
    expect([...after].sort()).toEqual([...before, ...labels].sort());
    expect(tool('qpdf', '--show-object=trailer', file)).toContain('/Root');
    expect(tool('pdfimages', '-list', file).trim().split('\n')).toHaveLength(2);
  });

  it('has a sheet to fill in, and an answer key that begins on a sheet of its own', async () => {
    await teacher.press('More choices for the hand-out');
    await teacher.find('dialog', 'A hand-out the way you want it');
    for (const one of ['To fill in, and an answer key', '4']) await (await teacher.find('radio', one)).click();
    await teacher.press('Make this hand-out');
    const file = await saved(PDF);
    expect(tool('pdfinfo', file)).toMatch(/Pages: +2/);
    const blue = async (page: number) => {
      const { data } = pixels(await drawn(file, page, 100));
      let count = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i + 2] > data[i] + 120) count++;
      return count;
    };
    // The ink on it is blue, and nothing that is printed is.
    expect(await blue(1)).toBe(0);
    expect(await blue(2)).toBeGreaterThan(20);
  });
});

describe('a hand-out of a recorded lesson', () => {
  it('shows each chapter as the painter paints it, with a code that leads to its moment', async () => {
    await openShare(COMPASS);
    await teacher.press('Make a watch link');
    const link = await teacher.valueOf('textbox', 'Watch link');
    await teacher.find('button', 'All links and their rules');
    await teacher.press('More choices for the hand-out');
    for (const one of ['A page for each chapter', 'With what I wrote', '1'])
      await (await teacher.find('radio', one)).click();
    await teacher.press('Make this hand-out');
    const file = await saved(`${COMPASS}.pdf`);
    expect(tool('qpdf', '--check', file)).toContain('No syntax or stream encoding errors');
    expect(tool('pdfinfo', file)).toMatch(/Pages: +4/);
    const text = tool('pdftotext', file, '-');
    for (const chapter of CHAPTERS) expect(text).toContain(chapter);
    const { data, width, height } = pixels(await drawn(file, 3, 200));
    const sums = jsQr(new Uint8ClampedArray(data), width, height);
    expect(sums?.data).toMatch(new RegExp(`^${link.replaceAll('/', '\\/')}#t=3[01]$`));
    expect(tool('pdftotext', '-f', '3', '-l', '3', file, '-')).toContain('0:30');

    const token = link.split('/').at(-1)!;
    const { publication } = await teacher.request<{ publication: string }>('GET', `/watch/${token}`);
    const payload = await fetch(`${classroom.school.url}/api/watch/${token}/publications/${publication}/payload`);
    const timeline = timelineOf(decodePayload(new Uint8Array(await payload.arrayBuffer())));
    await comparePages(await drawn(file, 4), timeline);
  });

  it('goes step by step, with more ink at each, and says beside it what is said meanwhile', async () => {
    await teacher.press('More choices for the hand-out');
    for (const one of ['Step by step, as they were written', 'What I say'])
      await (await teacher.find('radio', one)).click();
    await teacher.press('Make this hand-out');
    const file = await saved(`${COMPASS}.pdf`);
    expect(tool('qpdf', '--check', file)).toContain('No syntax or stream encoding errors');
    const text = tool('pdftotext', file, '-');
    const steps = [...text.matchAll(/Step (\d+) · /g)].map(([, n]) => Number(n));
    expect(steps.length).toBeGreaterThan(5);
    expect(steps).toEqual(steps.map((_, n) => n + 1));
    // All that is said in the lesson is said beside one of its steps, once.
    const token = (await teacher.valueOf('textbox', 'Watch link')).split('/').at(-1)!;
    const { publication } = await teacher.request<{ publication: string }>('GET', `/watch/${token}`);
    const captions = await fetch(`${classroom.school.url}/api/watch/${token}/publications/${publication}/captions`);
    const said = (await captions.text()).split('\n').filter((line) => line && !/-->|^WEBVTT|^\d+$/.test(line));
    const printed = words(text);
    const first = words(said[0]);
    expect(printed.join(' ')).toContain(first.join(' '));
    for (const word of new Set(words(said.join(' ')))) expect(printed).toContain(word);
    const inked = async (page: number) => {
      const { data } = pixels(await drawn(file, page, 40));
      let count = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i] + data[i + 1] + data[i + 2] < 450) count++;
      return count;
    };
    expect(await inked(3)).toBeGreaterThan(await inked(1));
  });

  it('is labelled in whatever script its chapters are named in', async () => {
    const name = 'חבל · Καλώς · узел · Ŵy';
    await teacher.press('Trim');
    await teacher.press('Chapters');
    await teacher.fill('Name of the chapter at 0:00', name);
    await teacher.page.keyboard.press('Tab');
    await teacher.press('Share');
    await teacher.press('More choices for the hand-out');
    for (const one of ['A page for each chapter', 'Nothing']) await (await teacher.find('radio', one)).click();
    await teacher.press('Make this hand-out');
    const file = await saved(`${COMPASS}.pdf`);
    expect(tool('pdftotext', '-l', '1', file, '-').normalize('NFC')).toContain('Καλώς · узел · Ŵy');
    // A reader puts Hebrew into an order of its own; the document has the label as it was typed.
    const content = execFileSync('qpdf', ['--qdf', file, '-'], { encoding: 'latin1', maxBuffer: 2 ** 28 });
    const utf16 = Buffer.from(name, 'utf16le').swap16().toString('hex');
    expect(content.toLowerCase()).toContain(utf16);
    // What is found there is seen there, too.
    const { data, width, height } = pixels(await drawn(file, 1, 100));
    let dark = 0;
    for (let y = Math.round(height * 0.8); y < height; y++) {
      for (let x = 0; x < width / 2; x++) if (data[(y * width + x) * 4] < 160) dark++;
    }
    expect(dark).toBeGreaterThan(100);
  });
});

/** Holds a printed page against what the painter paints: thin lines differ by their smoothing, and nothing else does. */
async function comparePages(printed: Image, timeline: ReturnType<typeof timelineOf>): Promise<void> {
  const { scene } = timeline.at(timeline.lengthSamples);
  const state = scene.pages.find(({ page }) => page.id === scene.shown)!;
  const { data, width, height } = pixels(printed);
  // The page lies as large as the sheet lets it, at its top, in its middle.
  const margin = 28;
  const foot = 52;
  const scale = Math.min((width - 2 * margin) / state.page.widthPt, (height - 2 * margin - foot) / state.page.heightPt);
  const left = (width - state.page.widthPt * scale) / 2;
  const painted = createCanvas(width, height).getContext('2d');
  painted.fillStyle = '#ffffff';
  painted.fillRect(0, 0, width, height);
  paintPage(painted, state, {
    pxPerPt: scale,
    leftPx: left - state.page.leftPt * scale,
    topPx: margin - state.page.topPt * scale,
  });
  const ours = painted.getImageData(0, 0, width, height).data;
  let [differing, inked, counted] = [0, 0, 0];
  for (let y = margin + 3; y < margin + state.page.heightPt * scale - 3; y++) {
    for (let x = Math.ceil(left) + 3; x < width - left - 3; x++) {
      const at = (y * width + x) * 4;
      counted++;
      if (ours[at] + ours[at + 1] + ours[at + 2] < 450) inked++;
      if (Math.abs(ours[at] - data[at]) > 110) differing++;
    }
  }
  expect(inked).toBeGreaterThan(500);
  expect(differing / counted).toBeLessThan(0.004);
}
