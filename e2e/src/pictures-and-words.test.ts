import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createCanvas, loadImage } from '@napi-rs/canvas';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { savesInto, type Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openElsewhere } from './support/lessons';

const COMPASS = 'From chart to compass';
let classroom: Classroom;
let teacher: Person;
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-pictures-'));

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await savesInto(classroom.browser, folder);
  const { origin } = new URL(classroom.school.url);
  await classroom.browser
    .defaultBrowserContext()
    .overridePermissions(origin, ['clipboard-read', 'clipboard-write', 'clipboard-sanitized-write']);
  const lessons = await teacher.request<{ id: string; title: string }[]>('GET', '/lessons');
  await teacher.page.goto(`${classroom.school.url}/lesson/${lessons.find(({ title }) => title === COMPASS)!.id}/share`);
  await openElsewhere(teacher);
});
afterAll(() => classroom?.close());

async function saved(name: string): Promise<Buffer> {
  await expect.poll(() => readdirSync(folder)).toContain(name);
  return readFileSync(join(folder, name));
}

async function pixelsOf(file: Buffer, width = 0): Promise<{ data: Uint8ClampedArray; width: number; height: number }> {
  const image = await loadImage(file);
  const [wide, high] = width ? [width, Math.round((width * image.height) / image.width)] : [image.width, image.height];
  const context = createCanvas(wide, high).getContext('2d');
  context.drawImage(image, 0, 0, wide, high);
  return { data: context.getImageData(0, 0, wide, high).data, width: wide, height: high };
}

describe('pages as pictures', () => {
  it('are PNG and SVG alike, and with the ink alone where that is wanted', async () => {
    const playhead = await teacher.find('slider', 'Playhead');
    await playhead.focus();
    await teacher.page.keyboard.press('End');
    await teacher.press('Save this page');
    const png = await pixelsOf(await saved(`${COMPASS}.png`));
    expect([png.width, png.height, png.data[3]]).toEqual([1920, 1080, 255]);
    await teacher.choose('Kind of picture', 'svg');
    await teacher.press('Save this page');
    const file = await saved(`${COMPASS}.svg`);
    expect(file.toString()).toContain(`<title>${COMPASS}</title>`);
    const [small, svg] = [await pixelsOf(await saved(`${COMPASS}.png`), 480), await pixelsOf(file, 480)];
    let differing = 0;
    for (let i = 0; i < small.data.length; i += 4) if (Math.abs(small.data[i] - svg.data[i]) > 90) differing++;
    expect(differing / (small.data.length / 4)).toBeLessThan(0.004);

    await teacher.choose('Kind of picture', 'webp');
    await (await teacher.find('checkbox', 'The ink alone, without the paper')).click();
    await teacher.press('Save this page');
    const ink = await pixelsOf(await saved(`${COMPASS}.webp`));
    expect(ink.data[3]).toBe(0);
    expect(ink.data.some((value, i) => i % 4 === 3 && value === 255)).toBe(true);
  });

  it('are all in one zip, and can be copied', async () => {
    await teacher.choose('Kind of picture', 'png');
    await teacher.press('Save all pages');
    await teacher.press(`Save ${COMPASS}, pages.zip`, 'link');
    const files = unzipSync(await saved(`${COMPASS}, pages.zip`));
    expect(Object.keys(files)).toEqual(['page-1.png', 'page-2.png']);
    await teacher.press('Copy this page');
    const copied = () =>
      teacher.page.evaluate(async () => {
        const [item] = await navigator.clipboard.read();
        return (await createImageBitmap(await item.getType('image/png'))).width;
      });
    await expect.poll(() => copied().catch((error: Error) => error.message)).toBe(1920);
  });
});

describe('the steps of a lesson', () => {
  beforeAll(async () => (await teacher.find('checkbox', 'The ink alone, without the paper')).click());

  it.each(['png', 'svg'])('are side by side on one sheet, each with more on it: %s', async (kind) => {
    await teacher.choose('Kind of picture', kind);
    await teacher.press('Save the steps on one sheet');
    await teacher.press(`Save ${COMPASS}, steps.${kind}`, 'link');
    const { data, width, height } = await pixelsOf(await saved(`${COMPASS}, steps.${kind}`), 960);
    const inkIn = (fromX: number, toX: number, fromY: number, toY: number) => {
      let count = 0;
      for (let y = Math.round(fromY * height); y < toY * height; y++) {
        for (let x = Math.round(fromX * width); x < toX * width; x++) if (data[(y * width + x) * 4] < 90) count++;
      }
      return count;
    };
    expect(height).toBeGreaterThan(200);
    // The first place shows the page before anything was written; the third, two steps later.
    expect(inkIn(0.5, 0.75, 0, 0.25)).toBeGreaterThan(inkIn(0, 0.25, 0, 0.25));
  });
});

describe('a lesson in words', () => {
  it('is a text, Markdown and captions, as what is said and written says', async () => {
    const endings = { txt: '.txt', md: '.md', vtt: '.vtt', srt: '.srt', chapters: ', chapters.vtt' };
    const text: Record<string, string> = {};
    for (const [kind, ending] of Object.entries(endings)) {
      await teacher.choose('Kind of text', kind);
      await teacher.press('Save the words');
      text[kind] = (await saved(`${COMPASS}${ending}`)).toString();
    }
    expect(text.txt).toMatch(/^From chart to compass\n\nThe course on the chart\n\n\[00:00:0\d\] You have drawn/);
    expect(text.md).toMatch(/^# From chart to compass\n\n## The course on the chart\n\nYou have drawn/);
    expect(text.vtt).toMatch(/^WEBVTT\n\n00:00:0\d\.\d{3} --> /);
    expect(text.srt).toMatch(/^1\n00:00:0\d,\d{3} --> /);
    expect(text.chapters.match(/-->/g)).toHaveLength(4);
  });
});
