import { randomFillSync } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import { createCanvas } from '@napi-rs/canvas';
import { rounded } from './figures';
import { processesMb } from './memory';

const PAGES = 200;
const TARGET_BYTES = 50e6;

/** Brings in a scanned book of 200 pages and 50 MB, as a teacher does. */
export async function benchPdf(school: School): Promise<Record<string, number>> {
  const file = join(mkdtempSync(join(tmpdir(), 'kite-trail-bench-')), 'pilot-book.pdf');
  writeFileSync(file, await scannedBook());
  const browser = await openBrowser();
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await teacher.press('New lesson');
  await teacher.fill('Name', 'Pilot book');
  await teacher.press('Make the lesson');
  await teacher.find('image', 'Page to write on');
  await noteBlocks(teacher.page);
  const before = processesMb(browser.process()!.pid!);
  let peakMb = 0;
  const watching = setInterval(() => (peakMb = Math.max(peakMb, processesMb(browser.process()!.pid!) - before)), 500);

  const input = await teacher.page.waitForSelector('input[type=file]');
  const droppedMs = performance.now();
  await input!.uploadFile(file);
  await drawn(teacher.page, '[aria-label="PDF page 1"] canvas');
  const choosingMs = performance.now() - droppedMs;
  await pause(1000);
  const addedMs = performance.now();
  await teacher.press(`Add ${PAGES} pages`);
  await drawn(teacher.page, 'canvas.settled');
  const firstMs = performance.now() - addedMs;
  await teacher.page.waitForFunction(
    (count) => document.querySelectorAll('[data-page]').length === count,
    { polling: 50 },
    PAGES,
  );
  const allMs = performance.now() - addedMs;
  // Until all is on the server, and watchers' pictures of all pages, too.
  const isSending = () => teacher.page.evaluate(() => document.querySelector('progress') !== null);
  while (!(await isSending())) await pause(50);
  while (await isSending()) await pause(500);
  const sentMs = performance.now() - addedMs;
  clearInterval(watching);
  const longest = await teacher.page.evaluate(() => (window as unknown as { longestMs: number }).longestMs);
  await browser.close();
  return {
    pdf_first_page_ms: rounded(choosingMs + firstMs, 0),
    pdf_200_pages_ms: rounded(choosingMs + allMs, 0),
    pdf_200_pages_sent_ms: rounded(sentMs, 0),
    pdf_longest_block_ms: rounded(longest, 0),
    pdf_peak_mb: rounded(peakMb, 0),
  };
}

async function noteBlocks(page: Person['page']): Promise<void> {
  await page.evaluate(() => {
    const noted = window as unknown as { longestMs: number };
    noted.longestMs = 0;
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) noted.longestMs = Math.max(noted.longestMs, duration);
    }).observe({ type: 'longtask' });
  });
}

/** Waits until a canvas shows something other than blank paper. */
async function drawn(page: Person['page'], selector: string): Promise<void> {
  await page.waitForFunction(
    (where) => {
      const canvas = document.querySelector<HTMLCanvasElement>(where);
      if (!canvas || canvas.width < 20) return false;
      const small = new OffscreenCanvas(16, 16);
      const surface = small.getContext('2d')!;
      surface.drawImage(canvas, 0, 0, 16, 16);
      const { data } = surface.getImageData(4, 4, 8, 8);
      return data.some((value, i) => i % 4 < 3 && value < 200) && data[3] === 255;
    },
    { polling: 20 },
    selector,
  );
}

/** Pages as a scanner makes them: one grainy picture each. */
async function scannedBook(): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  const font = await document.embedFont(StandardFonts.Helvetica);
  for (let n = 0; n < PAGES; n++) {
    const scan = await document.embedJpg(grainy(n));
    const page = document.addPage([595.28, 841.89]);
    page.drawImage(scan, { x: 0, y: 0, width: 595.28, height: 841.89 });
    page.drawText(`Pilot book, page ${n + 1}`, { x: 60, y: 780, size: 18, font });
  }
  return document.save();
}

/** A grey picture of about the bytes a page may have; noise is what JPEG cannot make smaller. */
function grainy(seed: number): Buffer {
  const side = 610;
  const canvas = createCanvas(side, Math.round(side * 1.414));
  const surface = canvas.getContext('2d');
  const image = surface.createImageData(canvas.width, canvas.height);
  const noise = randomFillSync(new Uint8Array(canvas.width * canvas.height));
  for (let i = 0; i < noise.length; i++) {
    const grey = 90 + (noise[i] >> 1) + ((seed * 7) % 30);
    image.data.set([grey, grey, grey, 255], i * 4);
  }
  surface.putImageData(image, 0, 0);
  const jpeg = canvas.toBuffer('image/jpeg', 92);
  return jpeg.length * PAGES > TARGET_BYTES * 1.6 ? canvas.toBuffer('image/jpeg', 80) : jpeg;
}
