import { createServer, type Server } from 'node:http';
import { mkdtempSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { strFromU8, unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person, savesInto } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { openElsewhere } from './support/lessons';

const LESSON = 'From chart to compass';
const folder = mkdtempSync(join(tmpdir(), 'kite-trail-offline-'));
let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  await savesInto(classroom.browser, folder);
  const lessons = await teacher.request<{ id: string; title: string }[]>('GET', '/lessons');
  const { id } = lessons.find(({ title }) => title === LESSON)!;
  await teacher.page.goto(`${classroom.school.url}/lesson/${id}/share`);
  await openElsewhere(teacher);
});
afterAll(() => classroom?.close());

/** Has the page made, and saves it. @returns where it is */
async function made(kind: 'page' | 'course', ending: string): Promise<string> {
  await teacher.page.bringToFront();
  await teacher.choose('Kind of offline page', kind);
  await teacher.press('Make the page');
  await teacher.page.locator(`a[download$="${ending}"]`).click();
  const found = () => readdirSync(folder).find((name) => name.endsWith(ending));
  await expect.poll(found, { timeout: 60_000 }).toBeDefined();
  return join(folder, found()!);
}

describe('an offline page', () => {
  let path: string;

  it('plays from a disk, with its pictures and its sound, and asks no network for anything', async () => {
    path = await made('page', '.html');
    expect(statSync(path).size).toBeLessThan(3 * 2 ** 20);
    const page = await classroom.browser.newPage();
    const asked: string[] = [];
    page.on('request', (request) => {
      if (/^(https?|wss?):/.test(request.url())) asked.push(request.url());
    });
    const problems: unknown[] = [];
    page.on('pageerror', (error) => problems.push(error));
    const viewer = await Person.before(page);
    await page.goto(pathToFileURL(path).href);
    await viewer.sees(LESSON);
    await viewer.press('Play');
    await page.waitForFunction(() => /\b0:0[2-9]\b/.test(document.body.innerText));
    await viewer.press('Pause');
    // Something is written: the page is no blank paper.
    const colours = await page.evaluate(() => {
      const canvas = document.querySelector('canvas')!;
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      const seen = new Set<number>();
      for (let i = 0; i < data.length; i += 4) seen.add((data[i] << 16) | (data[i + 1] << 8) | data[i + 2]);
      return seen.size;
    });
    expect(colours).toBeGreaterThan(4);
    expect(asked).toEqual([]);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('shows its pages, its words and something to hear it by where there is no script', async () => {
    const page = await classroom.browser.newPage();
    await page.setJavaScriptEnabled(false);
    await page.goto(pathToFileURL(path).href);
    const shown = await page.$$eval('#plain img', (all) => all.map((one) => (one as HTMLImageElement).naturalWidth));
    expect(shown).toEqual([960, 960]);
    const sound = await page.$eval('audio', (audio) => (audio as HTMLAudioElement).currentSrc.slice(0, 22));
    expect(sound).toBe('data:audio/mp4;base64,');
    expect(await page.$eval('#plain', (plain) => getComputedStyle(plain).display)).not.toBe('none');
    await page.close();
  });
});

describe('the page in a course system', () => {
  let server: Server;
  afterAll(() => server?.close());

  it('tells it how far somebody came, and goes on there', async () => {
    const files = unzipSync(readFileSync(await made('course', 'SCORM.zip')));
    const manifest = strFromU8(files['imsmanifest.xml']);
    expect(manifest).toContain('<schemaversion>1.2</schemaversion>');
    expect(manifest).toContain('href="index.html"');
    const runTime = readFileSync(createRequire(import.meta.url).resolve('scorm-again/scorm12/min'));
    // A course system as students see it: its own page, which offers the calls, with the lesson in a frame.
    const course = `<!doctype html><script src="/run-time.js"></script><script>
      window.API = new Scorm12API({ autocommit: false });
      const kept = sessionStorage.getItem('kept');
      if (kept) window.API.loadFromJSON(JSON.parse(kept), 'cmi');
      window.API.on('LMSCommit', () => sessionStorage.setItem('kept', JSON.stringify(window.API.cmi.toJSON())));
      </script><iframe src="/index.html" style="width:100%;height:90vh"></iframe>`;
    const served: Record<string, [string, Uint8Array | string]> = {
      '/': ['text/html', course],
      '/run-time.js': ['text/javascript', runTime],
      '/index.html': ['text/html', files['index.html']],
    };
    server = createServer((request, response) => {
      const [type, body] = served[request.url ?? ''] ?? ['text/plain', ''];
      response.setHeader('content-type', type);
      response.end(body);
    }).listen(0);
    const url = `http://localhost:${(server.address() as AddressInfo).port}`;
    const student = await Person.at(classroom.browser, url);
    const toldOf = (name: string) =>
      student.page.evaluate(
        (of) => (window as unknown as { API: { LMSGetValue(name: string): string } }).API.LMSGetValue(of),
        name,
      );
    const frame = async () => (await (await student.page.waitForSelector('iframe'))!.contentFrame())!;
    await (await frame()).locator('aria/Play[role="button"]').click();
    await expect.poll(() => toldOf('cmi.core.lesson_location').then(Number), { timeout: 30_000 }).toBeGreaterThan(5);
    await (await frame()).locator('aria/Pause[role="button"]').click();
    expect(await toldOf('cmi.core.lesson_status')).toBe('incomplete');
    expect(await toldOf('cmi.suspend_data')).toMatch(/^1{2,}0+$/);
    await student.page.reload();
    await expect
      .poll(async () => (await frame()).evaluate(() => document.body.innerText), { timeout: 30_000 })
      .toMatch(/\b0:(0[5-9]|[1-5]\d)\b/);
    await student.page.close();
  });
});
