import { gzipSync } from 'node:zlib';
import type { Link } from '@kite-trail/core/contract/link';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { dragTo, secondsWatched, shareFromHome } from './support/watching';

let classroom: Classroom;
let student: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  const link = await shareFromHome(classroom.teacher, 'From chart to compass');
  student = await Person.at(classroom.browser, link);
  await student.page.setViewport({ width: 360, height: 740 });
  await student.find('button', 'Play');
});
afterAll(() => classroom?.close());

const goTo = (at: number) => dragTo(student, at);
const seconds = () => secondsWatched(student);

describe('whoever opens a link', () => {
  it('loads little, in few files, and the sound once, beside the program that plays it', async () => {
    const stranger = await Person.at(await classroom.browser.createBrowserContext(), 'about:blank');
    const before: string[] = [];
    const scripts: Promise<number>[] = [];
    stranger.page.on('response', (answer) => {
      const kind = answer.request().resourceType();
      if (kind === 'script') scripts.push(answer.buffer().then((bytes) => gzipSync(bytes).length));
    });
    stranger.page.on('request', (request) => before.push(request.resourceType()));
    await stranger.page.goto(student.page.url(), { waitUntil: 'domcontentloaded' });
    // All that the page itself asks for stands before what its program asks for then.
    const own = before.slice(0, before.indexOf('media') + 1);
    expect(own.sort()).toEqual(['document', 'media', 'script', 'script', 'stylesheet', 'stylesheet']);
    await stranger.press('Play');
    await expect
      .poll(() => stranger.page.$$eval('audio', (all) => all.map((one) => (one as HTMLAudioElement).currentTime > 0)))
      .toEqual([true]);
    await stranger.page.waitForNetworkIdle();
    const kb = (await Promise.all(scripts)).reduce((sum, bytes) => sum + bytes, 0) / 1024;
    expect(kb > 20 && kb < 120).toBe(true);
    await stranger.page.close();
  });
});

describe('a phone on a slow network', () => {
  it('plays, shows what is written, and goes on from where it is sent', async () => {
    const phone = await Person.at(await classroom.browser.createBrowserContext(), 'about:blank');
    await phone.page.setViewport({ width: 360, height: 740 });
    const devtools = await phone.page.createCDPSession();
    await devtools.send('Network.enable');
    const half = 500_000 / 8;
    const slow = { offline: false, latency: 150, downloadThroughput: half, uploadThroughput: half };
    await devtools.send('Network.emulateNetworkConditions', slow);
    await phone.page.goto(student.page.url(), { waitUntil: 'domcontentloaded' });
    await phone.press('Play');
    await expect.poll(() => secondsWatched(phone)).toBeGreaterThan(2);
    await expect.poll(async () => (await lowestInk(phone)).y).toBeGreaterThan(0);
    // Before the first halt.
    await dragTo(phone, 20);
    await expect.poll(() => secondsWatched(phone)).toBeGreaterThan(21);
    await phone.page.close();
  });
});

describe('a phone held upright', () => {
  it('has the pages below the controls, and goes to where one is explained', async () => {
    await student.press('Page 2');
    await expect.poll(seconds).toBeGreaterThan(25);
    await student.find('image', 'Page 2 of 2');
    // Each is as it is in the end: there is ink on it.
    const isWritten = (at: number) =>
      student.page.$$eval(
        '[aria-label=Pages] canvas',
        (all, n) => {
          const canvas = all[n] as HTMLCanvasElement;
          const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
          return data.some((value, i) => i % 4 === 0 && value < 60);
        },
        at,
      );
    await expect.poll(() => isWritten(0)).toBe(true);
    await expect.poll(() => isWritten(1)).toBe(true);
    await student.press('Page 1');
    await expect.poll(seconds).toBeLessThan(1);
  });

  it('leaves no room empty between page and controls', async () => {
    const page = (await (await student.find('image', 'Page 1 of 2')).boundingBox())!;
    const map = (await (await student.find('slider', 'Where to play')).boundingBox())!;
    const play = (await (await student.find('button', 'Play')).boundingBox())!;
    const pages = (await (await student.find('navigation', 'Pages')).boundingBox())!;
    expect(page.width).toBeGreaterThan(340);
    expect(map.y - (page.y + page.height)).toBeLessThan(24);
    expect(play.y - (map.y + map.height)).toBeLessThan(24);
    expect(pages.y + pages.height).toBeGreaterThan(720);
  });
});

const keptLessons = () => student.page.evaluate(async () => (await caches.keys()).length);

/** The lowest place on the page where something is written; and whether a place is written on just now. */
const lowestInk = ({ page } = student) =>
  page.$eval('canvas[role=img]', (element) => {
    const canvas = element as HTMLCanvasElement;
    const { data, width } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    const at = data.findLastIndex((value, i) => i % 4 === 0 && value < 60);
    return { x: (at / 4) % width, y: Math.floor(at / 4 / width), width };
  });
const isInkAt = ({ x, y }: { x: number; y: number }) =>
  student.page.$eval(
    'canvas[role=img]',
    (element, [left, top]) =>
      (element as HTMLCanvasElement).getContext('2d')!.getImageData(left, top, 1, 1).data[0] < 60,
    [x, y],
  );
/** Touches the page at a pixel of its canvas. */
async function touchPage({ x, y, width }: { x: number; y: number; width: number }) {
  const page = (await (await student.page.$('canvas[role=img]'))!.boundingBox())!;
  await student.page.mouse.click(page.x + (x * page.width) / width, page.y + (y * page.width) / width);
}

describe('a mark on the page', () => {
  it('is heard when it is touched: it goes to just before it is written; bare paper plays and pauses', async () => {
    await student.page.setViewport({ width: 1280, height: 800 });
    await goTo(70);
    await expect.poll(async () => (await lowestInk()).y).toBeGreaterThan(0);
    const ink = await lowestInk();
    // What is shown at once, before it has been played on: a slow machine takes its time until it is looked at.
    await student.page.evaluate(
      ([left, top]) => {
        const shown = () => ({
          seconds:
            Number(document.querySelector<HTMLInputElement>('input[aria-label="Where to play"]')!.value) / 48_000,
          isWritten:
            document
              .querySelector<HTMLCanvasElement>('canvas[role=img]')!
              .getContext('2d')!
              .getImageData(left, top, 1, 1).data[0] < 60,
        });
        const told = new Promise((resolve) => {
          const painted = () => requestAnimationFrame(() => requestAnimationFrame(() => resolve(shown())));
          addEventListener('click', painted, { once: true });
        });
        Object.assign(window, { told });
      },
      [ink.x, ink.y],
    );
    await touchPage(ink);
    const heard = await student.page.evaluate(
      () => (window as unknown as { told: Promise<{ seconds: number; isWritten: boolean }> }).told,
    );
    expect(heard.seconds > 32 && heard.seconds < 69).toBe(true);
    expect(heard.isWritten).toBe(false);
    await student.find('button', 'Pause');
    await touchPage({ ...ink, x: 4, y: 4 });
    await student.find('button', 'Play');
    await touchPage({ ...ink, x: 4, y: 4 });
    // What is seen being written next is what was touched.
    await expect.poll(() => isInkAt(ink)).toBe(true);
    await student.press('Pause');
    expect((await seconds()) - heard.seconds).toBeLessThan(12);
  });
});

describe('ways to watch', () => {
  it('lead on stroke by stroke, and by chapters', async () => {
    await student.press('More');
    await goTo(0);
    await student.press('One stroke on');
    const first = await seconds();
    await student.press('One stroke on');
    expect(await seconds()).toBeGreaterThan(first);
    await student.press('One stroke back');
    expect(await seconds()).toBeCloseTo(first, 1);
    await student.press('One chapter on');
    const chapter = await seconds();
    expect(chapter).toBeGreaterThan(first);
    await student.page.keyboard.press('PageDown');
    expect(await seconds()).toBeGreaterThan(chapter);
  });

  it('repeat a part for as long as that is wanted', async () => {
    await goTo(5);
    await student.press('Repeat from here');
    await goTo(7);
    await student.press('Repeat up to here');
    await goTo(6.5);
    await student.press('Play');
    await student.page.waitForFunction(
      () => {
        const bar = document.querySelector<HTMLInputElement>('input[aria-label="Where to play"]')!;
        const now = Number(bar.value) / 48_000;
        return now >= 5 && now < 6;
      },
      { polling: 'raf' },
    );
    await student.press('Pause');
    await student.press('Stop repeating 0:05 to 0:07');
    await student.find('button', 'Repeat from here');
  });

  it('let letters be larger, other ones, and further apart, and stay on this device', async () => {
    await student.press('Captions');
    await goTo(34);
    const size = () =>
      student.page.$eval('.captions', (one) => {
        const { fontSize, fontFamily, letterSpacing } = getComputedStyle(one);
        return { size: parseFloat(fontSize), fontFamily, letterSpacing };
      });
    const before = await size();
    await student.choose('Captions', '1.8');
    await student.choose('Letters', 'andika');
    await student.choose('Spacing', 'wide');
    const after = await size();
    expect(after.size).toBeGreaterThan(before.size * 1.7);
    expect(after.fontFamily).toMatch(/Andika/);
    expect(parseFloat(after.letterSpacing)).toBeGreaterThan(0.5);
    // Words are lit as they are said.
    const lit = () => student.page.$$eval('.captions .lit', (all) => all.map((one) => one.textContent!.trim()));
    const [word] = await lit();
    await student.press('Play');
    await expect.poll(async () => (await lit())[0]).not.toBe(word);
    await student.press('Pause');
    await student.press('Captions');
  });
});

describe('whoever comes back', () => {
  it('goes on where they were, or from the beginning', async () => {
    await goTo(40);
    await student.press('Play');
    await student.press('Pause');
    await student.page.reload();
    await student.sees('You were at 0:4');
    expect(await seconds()).toBeGreaterThan(39);
    await student.press('From the beginning');
    expect(await seconds()).toBe(0);
    await student.page.goto(`${student.page.url()}#t=12`);
    await student.page.reload();
    await student.find('button', 'Play');
    expect(await seconds()).toBe(12);
  });

  it('watches without any network what was watched before', async () => {
    // All of it has been kept on the device: its sound comes last.
    await student.page.waitForFunction(async () => {
      const names = await caches.keys();
      const kept = await Promise.all(names.map(async (name) => (await caches.open(name)).keys()));
      return kept.flat().some(({ url }) => url.endsWith('/sound'));
    });
    const { school } = classroom;
    await school.kill();
    await student.page.reload();
    await student.press('Play');
    await expect.poll(seconds).toBeGreaterThan(13);
    await student.press('Pause');
    await goTo(60);
    await student.press('Play');
    await expect.poll(seconds).toBeGreaterThan(61);
    await student.press('Pause');
    expect((await lowestInk()).y).toBeGreaterThan(0);
    // Also what was not looked at before.
    await student.press('More');
    await student.find('button', 'Print the pages');
    await student.press('More');
    await school.begin();
  });
});

describe('whoever watches', () => {
  it('is told when there is no network, for as long as there is none', async () => {
    await student.page.setOfflineMode(true);
    await student.sees('There is no network just now');
    await student.page.setOfflineMode(false);
    await student.page.waitForFunction(() => !document.body.innerText.includes('There is no network'));
  });

  it('goes along by keys, wherever the focus is', async () => {
    await (await student.find('button', 'Play')).focus();
    await student.page.keyboard.press('End');
    await expect.poll(seconds).toBeGreaterThan(60);
    await student.page.keyboard.press('ArrowLeft');
    await expect.poll(seconds).toBeLessThan(110);
    await student.page.keyboard.press('Home');
    await expect.poll(seconds).toBe(0);
    await student.page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await student.page.keyboard.press('Space');
    await student.find('button', 'Pause');
    await student.page.keyboard.press('Space');
    await student.find('button', 'Play');
  });
});

describe('a link that is withdrawn', () => {
  it('is not kept by those who watched, either; until then its teacher saw on which day that was', async () => {
    const { teacher } = classroom;
    const lesson = new URL(teacher.page.url()).pathname.split('/')[2];
    const [{ token, lastWatchedOn }] = await teacher.request<Link[]>('GET', `/lessons/${lesson}/links`);
    expect(lastWatchedOn).toBe(new Date().toISOString().slice(0, 10));
    expect(await keptLessons()).toBeGreaterThan(0);
    await teacher.request('DELETE', `/lessons/${lesson}/links/${token}`);
    await student.page.reload();
    await student.sees('The teacher has withdrawn this link');
    await expect.poll(keptLessons).toBe(0);
  });
});
