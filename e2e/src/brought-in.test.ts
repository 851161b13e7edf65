import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { photographed } from '@kite-trail/core/testing/photographed';
import { createCanvas, ImageData, loadImage } from '@napi-rs/canvas';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { jpegHeld, QUADRANTS } from './support/exif';
import { bytesAt, colorAt, openLesson, picturesOf } from './support/lessons';

const WORKSHEET = fileURLToPath(new URL('../../demo/worksheet/heights-of-tide.pdf', import.meta.url));
/** A manual that Debian ships as PDF (package libtasn1-doc): nothing of ours made it. */
const MANUAL = '/usr/share/doc/libtasn1-doc/libtasn1.pdf';
/** Two rasterisers smooth edges and choose substitute fonts differently; over small blocks that evens out. */
const MEAN_LEVELS = 4;
const BLOCK_LEVELS = 32;
const COMPARED_WIDTH_PX = 120;
const BLOCK_PX = 8;

const folder = mkdtempSync(join(tmpdir(), 'kite-trail-brought-in-'));
let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
});
afterAll(() => classroom?.close());

interface PageFacts {
  widthPt: number;
  heightPt: number;
}

/** What poppler says of a PDF's pages, as they are read: turned ones change their sides. */
function popplerFacts(file: string): PageFacts[] {
  const lines = execFileSync('pdfinfo', ['-l', '-1', file], { encoding: 'utf8' });
  const sizes = [...lines.matchAll(/^Page +\d+ size: +([\d.]+) x ([\d.]+) pts/gm)];
  const turns = [...lines.matchAll(/^Page +\d+ rot: +(\d+)/gm)];
  return sizes.map(([, width, height], n) => {
    const [a, b] = [Number(width), Number(height)];
    return Number(turns[n][1]) % 180 === 0 ? { widthPt: a, heightPt: b } : { widthPt: b, heightPt: a };
  });
}

/** How bright a page is, as a small grey picture. */
async function greys(picture: Buffer): Promise<{ values: Float64Array; width: number; height: number }> {
  const image = await loadImage(picture);
  const [width, height] = [COMPARED_WIDTH_PX, Math.round((COMPARED_WIDTH_PX * image.height) / image.width)];
  // Halved again and again, so that every pixel counts.
  let from = createCanvas(image.width, image.height);
  from.getContext('2d').drawImage(image, 0, 0);
  while (from.width >= width * 2) {
    const half = createCanvas(Math.round(from.width / 2), Math.round(from.height / 2));
    half.getContext('2d').drawImage(from, 0, 0, half.width, half.height);
    from = half;
  }
  const small = createCanvas(width, height);
  const surface = small.getContext('2d');
  surface.drawImage(from, 0, 0, width, height);
  const { data } = surface.getImageData(0, 0, width, height);
  const values = Float64Array.from(
    { length: width * height },
    (_, i) => (data[i * 4] + data[i * 4 + 1] + data[i * 4 + 2]) / 3,
  );
  return { values, width, height };
}

/** How far two pages differ: on the whole, and in the block where they differ most. */
async function difference(a: Buffer, b: Buffer): Promise<{ mean: number; worstBlock: number }> {
  const [one, other] = [await greys(a), await greys(b)];
  expect(Math.abs(one.height - other.height)).toBeLessThanOrEqual(1);
  const height = Math.min(one.height, other.height);
  let total = 0;
  let worstBlock = 0;
  for (let top = 0; top + BLOCK_PX <= height; top += BLOCK_PX) {
    for (let left = 0; left + BLOCK_PX <= one.width; left += BLOCK_PX) {
      let sum = 0;
      for (let y = top; y < top + BLOCK_PX; y++) {
        for (let x = left; x < left + BLOCK_PX; x++) {
          sum += one.values[y * one.width + x] - other.values[y * one.width + x];
        }
      }
      const block = Math.abs(sum) / BLOCK_PX ** 2;
      total += block;
      worstBlock = Math.max(worstBlock, block);
    }
  }
  const blocks = Math.floor(height / BLOCK_PX) * Math.floor(one.width / BLOCK_PX);
  return { mean: total / blocks, worstBlock };
}

/** What the server was sent of how a page looks. */
async function keptLook(asset: string, pageIndex: number): Promise<Buffer> {
  const { id } = await openLesson(teacher);
  const path = `/api/lessons/${id}/assets/${asset}/pages/${pageIndex}`;
  const bytes = await teacher.page.evaluate(async (where) => {
    for (;;) {
      const response = await fetch(where);
      if (response.ok) return [...new Uint8Array(await response.arrayBuffer())];
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }, path);
  return Buffer.from(bytes);
}

function popplerLook(file: string, pageIndex: number): Buffer {
  const page = String(pageIndex + 1);
  const out = join(folder, `${basename(file)}-${page}`);
  const size = ['-scale-to-x', '1280', '-scale-to-y', '-1'];
  execFileSync('pdftoppm', ['-f', page, '-l', page, '-singlefile', '-png', ...size, file, out]);
  return readFileSync(`${out}.png`);
}

async function dropOnHome(file: string): Promise<void> {
  await teacher.page.goto(classroom.school.url);
  await teacher.sees('New lesson');
  await teacher.drop('main', basename(file), 'application/pdf', readFileSync(file));
}

function turnedWorksheet(): string {
  const file = join(folder, 'turned.pdf');
  execFileSync('qpdf', [WORKSHEET, file, '--rotate=+90:1', '--rotate=+180:2', '--rotate=+270:3']);
  return file;
}

describe('PDFs', () => {
  it.each([
    ['our worksheet', WORKSHEET, [0, 1, 2]],
    ['the worksheet turned by qpdf', turnedWorksheet(), [0, 1, 2]],
    ['a manual shipped by Debian', MANUAL, [0, 4, 9]],
  ])('have the pages, sizes and looks that poppler finds: %s', async (_, file, compared) => {
    const facts = popplerFacts(file);
    await dropOnHome(file);
    await teacher.sees(`Add ${facts.length} pages`);
    await teacher.press('None');
    for (const n of compared) await teacher.press(`PDF page ${n + 1}`, 'checkbox');
    await teacher.press(`Add ${compared.length} pages`);
    await expect.poll(async () => (await openLesson(teacher)).pages.length).toBe(compared.length);
    const { pages } = await openLesson(teacher);
    for (const [place, n] of compared.entries()) {
      const { page } = pages[place];
      expect(page.sheet!.pageIndex).toBe(n);
      expect(Math.abs(page.widthPt - facts[n].widthPt)).toBeLessThan(0.05);
      expect(Math.abs(page.heightPt - facts[n].heightPt)).toBeLessThan(0.05);
      const { mean, worstBlock } = await difference(await keptLook(page.sheet!.asset, n), popplerLook(file, n));
      console.log(`${basename(file)} page ${n + 1}: differs by ${mean.toFixed(2)}, at most ${worstBlock.toFixed(1)}`);
      expect(mean).toBeLessThan(MEAN_LEVELS);
      expect(worstBlock).toBeLessThan(BLOCK_LEVELS);
    }
  });

  it('that come together are asked for one after the other', async () => {
    await classroom.makeLesson('Two at once');
    await teacher.upload('Pictures and PDFs', WORKSHEET, MANUAL);
    await teacher.sees('Pages of heights-of-tide.pdf');
    await teacher.press('Add 3 pages');
    await teacher.sees('Pages of libtasn1.pdf');
    await teacher.press('None');
    await teacher.press('PDF page 1', 'checkbox');
    await teacher.press('Add 1 page');
    await expect.poll(async () => (await openLesson(teacher)).pages.length).toBe(4);
  });

  it('that are locked ask for their password, as often as it takes', async () => {
    const file = join(folder, 'locked.pdf');
    execFileSync('qpdf', ['--encrypt', 'spring-tide', 'owner-only', '256', '--', WORKSHEET, file]);
    await dropOnHome(file);
    await teacher.sees('This PDF is locked');
    await teacher.fill('Password of locked.pdf', 'neap');
    await teacher.press('Open');
    await teacher.sees('This is not its password.');
    await teacher.fill('Password of locked.pdf', 'spring-tide');
    await teacher.press('Open');
    await teacher.press('Add 3 pages');
    await expect.poll(async () => (await openLesson(teacher)).pages.length).toBe(3);
    // Drawn once with the password, its pages are shown after coming back without it.
    await keptLook((await openLesson(teacher)).pages[0].page.sheet!.asset, 2);
    await teacher.sees('Saved');
    await teacher.page.reload();
    await teacher.find('image', 'Page to write on');
    await expect.poll(darkShare).toBeGreaterThan(0.02);
  });

  it('larger than a lesson takes are refused, with the limit', async () => {
    await teacher.page.goto(classroom.school.url);
    await teacher.sees('New lesson');
    await teacher.page.evaluate(() => {
      const dataTransfer = new DataTransfer();
      const bytes = new Uint8Array(81 * 2 ** 20);
      bytes.set(new TextEncoder().encode('%PDF-1.7'));
      dataTransfer.items.add(new File([bytes], 'atlas.pdf', { type: 'application/pdf' }));
      document.querySelector('main')!.dispatchEvent(new DragEvent('drop', { dataTransfer, bubbles: true }));
    });
    await teacher.sees(/atlas\.pdf: A PDF may have 80 MB at most/);
  });
});

/** How much of the heading's place is dark. */
const darkShare = () =>
  teacher.page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas.settled')!;
    const { width, height } = canvas;
    const { data } = canvas.getContext('2d')!.getImageData(0.1 * width, 0.08 * height, 0.3 * width, 0.04 * height);
    let dark = 0;
    for (let i = 0; i < data.length; i += 4) if (data[i] < 90) dark++;
    return dark / (data.length / 4);
  });

describe('pictures', () => {
  beforeAll(async () => {
    await teacher.page.goto(classroom.school.url);
    await teacher.press('New lesson');
    await teacher.fill('Name', 'Pictures');
    await teacher.press('Make the lesson');
    await teacher.find('image', 'Page to write on');
  });
  let brought = 0;
  beforeEach(async () => {
    brought = picturesOf(await openLesson(teacher), 0).length;
  });

  const arrived = async () => {
    await expect.poll(async () => picturesOf(await openLesson(teacher), 0).length).toBe(brought + 1);
    return picturesOf(await openLesson(teacher), 0).at(-1)!;
  };
  const isNear = (color: number[], [r, g, b]: number[]) =>
    Math.abs(color[0] - r) + Math.abs(color[1] - g) + Math.abs(color[2] - b) < 60;
  const shows = (u: number, v: number, color: number[]) =>
    expect.poll(async () => isNear(await colorAt(teacher, u, v), color)).toBe(true);

  it.each([1, 2, 3, 4, 5, 6, 7, 8])('are turned as a camera says: EXIF orientation %i', async (orientation) => {
    await teacher.paste(`held-${orientation}.jpg`, 'image/jpeg', jpegHeld(orientation));
    const { frame } = await arrived();
    expect(frame.widthPt / frame.heightPt).toBeCloseTo(QUADRANTS.width / QUADRANTS.height, 1);
    await shows(0.47, 0.47, [200, 30, 30]);
    await shows(0.53, 0.47, [30, 160, 60]);
    await shows(0.47, 0.53, [40, 60, 200]);
    await shows(0.53, 0.53, [230, 200, 40]);
  });

  const sea = createCanvas(300, 300);
  sea.getContext('2d').fillStyle = '#12776f';
  sea.getContext('2d').fillRect(0, 0, 300, 300);

  it.each([
    ['buoy.webp', () => sea.toBuffer('image/webp')],
    ['buoy.avif', () => sea.toBuffer('image/avif')],
    ['buoy.gif', () => converted('gif')],
    [
      'buoy.svg',
      () =>
        Buffer.from(
          '<svg xmlns="http://www.w3.org/2000/svg" width="30" height="30" onload="document.title=\'taken\'">' +
            '<script>document.title="taken"</script><rect width="30" height="30" fill="#12776f"/></svg>',
        ),
    ],
  ])('may be of any usual kind, told by what is in them: %s', async (name, bytes) => {
    await teacher.paste('picture', 'application/octet-stream', bytes());
    await arrived();
    await shows(0.5, 0.5, [0x12, 0x77, 0x6f]);
    expect(await teacher.page.title(), name).not.toBe('taken');
  });

  function converted(kind: string): Buffer {
    const [from, to] = [join(folder, 'sea.png'), join(folder, `sea.${kind}`)];
    writeFileSync(from, sea.toBuffer('image/png'));
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', from, to]);
    return readFileSync(to);
  }

  it.each(['header', '[aria-label=Trail]', 'body'])('are brought in wherever they are dropped: %s', async (where) => {
    const { href } = await teacher.page.evaluate(() => ({ href: location.href }));
    await teacher.drop(where, 'sea.png', 'image/png', sea.toBuffer('image/png'));
    await arrived();
    expect(teacher.page.url()).toBe(href);
  });

  it('that are very large are kept smaller, and the teacher is told', async () => {
    const wide = createCanvas(6000, 1500);
    wide.getContext('2d').fillStyle = '#c23b1e';
    wide.getContext('2d').fillRect(0, 0, 6000, 1500);
    await teacher.paste('coast.png', 'image/png', wide.toBuffer('image/png'));
    await teacher.sees('This picture was very large (6000 × 1500); it is kept at 4000 × 1000.');
    await arrived();
    await shows(0.5, 0.5, [0xc2, 0x3b, 0x1e]);
  });

  it('of a sheet of paper become the sheet, straight and evenly lit, and the photograph again', async () => {
    const { photograph, aspect } = photographed(104);
    const taken = createCanvas(photograph.widthPx, photograph.heightPx);
    taken.getContext('2d').putImageData(new ImageData(photograph.rgba, photograph.widthPx), 0, 0);
    await teacher.paste('homework.png', 'image/png', taken.toBuffer('image/png'));
    const before = await arrived();
    const now = async () => picturesOf(await openLesson(teacher), 0).find(({ id }) => id === before.id)!;
    await teacher.press('More');
    await teacher.press('Straighten the sheet');
    await expect.poll(async () => (await now()).asset).not.toBe(before.asset);
    const { frame, asset } = await now();
    expect(Math.abs(frame.widthPt / frame.heightPt / aspect - 1)).toBeLessThan(0.03);
    const { id } = await openLesson(teacher);
    const sheet = await loadImage(Buffer.from(await bytesAt(teacher, `/lessons/${id}/assets/${asset}`)));
    const surface = createCanvas(sheet.width, sheet.height).getContext('2d');
    surface.drawImage(sheet, 0, 0);
    // The edges of the page are bare paper, wherever the shadow lay.
    for (const [u, v] of [
      [0.04, 0.04],
      [0.96, 0.04],
      [0.96, 0.96],
      [0.04, 0.96],
    ]) {
      const { data } = surface.getImageData(Math.round(u * sheet.width), Math.round(v * sheet.height), 1, 1);
      expect(Math.min(data[0], data[1], data[2])).toBeGreaterThan(225);
    }
    await teacher.press('Undo');
    await expect.poll(now).toEqual(before);
  });

  it('in which no sheet is seen are asked for its corners, and stay as they are until these are placed', async () => {
    await teacher.paste('sea.png', 'image/png', sea.toBuffer('image/png'));
    const before = await arrived();
    const now = async () => picturesOf(await openLesson(teacher), 0).find(({ id }) => id === before.id)!;
    await teacher.press('More');
    await teacher.press('Straighten the sheet');
    await teacher.find('dialog', 'Where are the corners of the sheet?');
    await teacher.press('Leave it as it is');
    await teacher.isGone('dialog', 'Where are the corners of the sheet?');
    expect(await now()).toEqual(before);

    await teacher.press('More');
    await teacher.press('Straighten by its corners');
    const corner = await teacher.find('button', 'Bottom right corner');
    await teacher.page.waitForFunction(() =>
      document.getAnimations().every(({ playState }) => playState !== 'running'),
    );
    const { x, y, width, height } = (await corner.boundingBox())!;
    const photograph = (await (await teacher.find('image', 'The photograph')).boundingBox())!;
    await teacher.page.mouse.move(x + width / 2, y + height / 2);
    await teacher.page.mouse.down();
    await teacher.page.mouse.move(x + width / 2, photograph.y + 0.5 * photograph.height, { steps: 4 });
    await teacher.page.mouse.up();
    // One corner across another makes no sheet.
    await (await teacher.find('button', 'Top left corner')).focus();
    for (let n = 0; n < 170; n++) await teacher.page.keyboard.press('ArrowRight');
    await teacher.sees('Each corner has its own place');
    for (let n = 0; n < 170; n++) await teacher.page.keyboard.press('ArrowLeft');
    await (await teacher.find('button', 'Bottom left corner')).focus();
    for (let n = 0; n < 80; n++) await teacher.page.keyboard.press('ArrowUp');
    await teacher.press('Straighten');
    await expect.poll(async () => (await now()).asset).not.toBe(before.asset);
    // From a tenth of the height to the middle, and eight tenths of the width.
    const { frame } = await now();
    expect(frame.widthPt / frame.heightPt).toBeCloseTo(2, 1);
  });

  it('that would take more room than there is are refused before they are opened', async () => {
    // A PNG header (W3C PNG, section 11.2.1) that claims 60,000 × 60,000 pixels.
    const bomb = Buffer.from(sea.toBuffer('image/png'));
    bomb.writeUInt32BE(60_000, 16);
    bomb.writeUInt32BE(60_000, 20);
    await teacher.paste('bomb.png', 'image/png', bomb);
    await teacher.sees(/60000 × 60000 pixels, more than can be opened/);
    expect(picturesOf(await openLesson(teacher), 0)).toHaveLength(brought);
  });
});
