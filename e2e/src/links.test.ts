import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { USUAL_LINK, type Link, type LinkSettings } from '@kite-trail/core/contract/link';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import type { BrowserContext } from 'puppeteer-core';
import jsQR from 'jsqr';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { takeComplaints } from './support/complaints';
import { openClassroom, type Classroom } from './support/classroom';

const COMPASS = 'From chart to compass';
let classroom: Classroom;
let teacher: Person;
let elsewhere: BrowserContext;
let lesson: string;
let main: string;

beforeAll(async () => {
  classroom = await openClassroom();
  teacher = classroom.teacher;
  elsewhere = await classroom.browser.createBrowserContext();
  const lessons = await teacher.request<LessonSummary[]>('GET', '/lessons');
  lesson = lessons.find(({ title }) => title === COMPASS)!.id;
  // Its sound is a matter of other tests, and takes a while to be made.
  const { edit } = await teacher.request<LessonDocument>('GET', `/lessons/${lesson}`);
  await teacher.request('POST', `/lessons/${lesson}/publications/${edit.n}`);
  await teacher.page.goto(`${classroom.school.url}/lesson/${lesson}/share`);
  main = await teacher.valueOf('textbox', 'Watch link');
});
afterAll(() => classroom?.close());

const change = (token: string, settings: Partial<LinkSettings>) =>
  teacher.request<Link[]>('PUT', `/lessons/${lesson}/links/${token}`, { settings: { ...USUAL_LINK, ...settings } });
const tokenOf = (address: string) => address.split('/').at(-1)!;

describe('a link', () => {
  it('is a QR code that cameras read', async () => {
    await teacher.press('QR code');
    const code = (await teacher.page.waitForSelector('img[alt^="QR code of"]'))!;
    const { pixels, side } = await code.evaluate(async (element) => {
      const image = element as HTMLImageElement;
      await image.decode();
      const [canvas, side] = [document.createElement('canvas'), 400];
      canvas.width = canvas.height = side;
      const surface = canvas.getContext('2d')!;
      surface.drawImage(image, 0, 0, side, side);
      return { pixels: [...surface.getImageData(0, 0, side, side).data], side };
    });
    expect(jsQR(Uint8ClampedArray.from(pixels), side, side)?.data).toBe(main);
    const names = await teacher.page.$$eval('a[download]', (all) =>
      all.map((one) => (one as HTMLAnchorElement).download),
    );
    expect(names).toEqual(expect.arrayContaining([`${COMPASS}.png`, `${COMPASS}.svg`]));
    await teacher.page.keyboard.press('Escape');
    await teacher.isGone('dialog', 'QR code');
  });

  it('of another kind is made, changed where it stands, and withdrawn, in a table of all', async () => {
    await teacher.press('All links and their rules');
    await teacher.press('Another link');
    await teacher.fill('What you call it', 'For those who were away');
    await teacher.fill('Passcode', 'harbour 7');
    await teacher.choose('It ends', String(30 * 60_000));
    await teacher.press('Make the link');
    await teacher.sees('For those who were away');
    await teacher.isGone('button', 'Make the link');
    await teacher.sees(/1:1\d · Passcode/);
    await teacher.sees(/Up to date, until/);
    const [{ token, settings }] = await teacher.request<Link[]>('GET', `/lessons/${lesson}/links`);
    expect(Date.parse(settings.endsAt!) - Date.now()).toBeLessThan(31 * 60_000);

    // A student without it stays outside; with it, they watch.
    const student = await Person.at(elsewhere, `${classroom.school.url}/w/${token}`);
    await student.fill('Passcode', 'harbour 8');
    await student.press('Open');
    await student.sees('This is not the passcode');
    await student.fill('Passcode', 'harbour 7');
    await student.press('Open');
    await student.find('button', 'Play');
    await student.find('image', 'Page 1 of 2');
    await student.page.close();

    await teacher.press('Rules of For those who were away');
    await teacher.choose('It ends', 'never');
    await (await teacher.find('checkbox', 'No passcode any more')).click();
    await teacher.press('Keep');
    await teacher.isGone('button', 'Keep');
    const open = await Person.at(elsewhere, `${classroom.school.url}/w/${token}`);
    await open.find('button', 'Play');
    await open.page.close();

    await teacher.press('Withdraw For those who were away');
    await teacher.press('Withdraw it');
    await teacher.sees('Show 1 that has ended');
    const late = await Person.at(elsewhere, `${classroom.school.url}/w/${token}`);
    await late.sees('The teacher has withdrawn this link');
    await late.page.close();
    await teacher.page.keyboard.press('Escape');
  });

  it('may lead to a part alone, which is as long as it is', async () => {
    await teacher.press('All links and their rules');
    await teacher.press('Another link');
    await (await teacher.find('checkbox', 'A part only')).click();
    // The part's beginning goes along by keys.
    await (await teacher.find('slider', 'From 0:00')).focus();
    await teacher.page.keyboard.press('End');
    for (let n = 0; n < 8; n++) await teacher.page.keyboard.press('ArrowLeft');
    await teacher.find('slider', 'From 1:03');
    await teacher.press('Make the link');
    await teacher.isGone('button', 'Make the link');
    const links = await teacher.request<Link[]>('GET', `/lessons/${lesson}/links`);
    expect(links[0].part).not.toBe(null);
    expect(links[0].lengthSamples).toBeLessThan(links.at(-1)!.lengthSamples - 60 * 48_000);
    const student = await Person.at(elsewhere, `${classroom.school.url}/w/${links[0].token}`);
    await student.sees(/0:00 \/ 0:0\d/);
    await student.page.close();
    await teacher.page.keyboard.press('Escape');
  });

  it('says to chat programs what it leads to, and nothing of one that has a passcode', async () => {
    const head = await (await fetch(main)).text();
    const said = (name: string) => new RegExp(`<meta property="${name}" content="([^"]*)"`).exec(head)?.[1];
    expect([said('og:title'), said('og:description')]).toEqual([COMPASS, expect.stringMatching(/a minute long/)]);
    // Titles are made of all kinds of signs.
    const title = `Tide & "time" $& </script> ‏מים`;
    await teacher.request('PUT', `/lessons/${lesson}/name`, { title });
    const { edit } = await teacher.request<LessonDocument>('GET', `/lessons/${lesson}`);
    await teacher.request('POST', `/lessons/${lesson}/publications/${edit.n}`);
    const student = await Person.at(elsewhere, main);
    await student.find('heading', title);
    const [inTab, inHead] = await student.page.evaluate(() => [
      document.title,
      document.querySelector<HTMLMetaElement>('meta[property="og:title"]')!.content,
    ]);
    expect([inTab, inHead]).toEqual([title, title]);
    await student.page.close();
    await teacher.request('PUT', `/lessons/${lesson}/name`, { title: COMPASS });
    await teacher.request('POST', `/lessons/${lesson}/publications/${edit.n}`);
    const picture = await fetch(said('og:image')!);
    expect(picture.headers.get('content-type')).toBe('image/png');
    await teacher.request('PUT', `/lessons/${lesson}/links/${tokenOf(main)}/passcode`, { passcode: 'harbour 7' });
    expect(await (await fetch(main)).text()).not.toContain(COMPASS);
    await teacher.request('PUT', `/lessons/${lesson}/links/${tokenOf(main)}/passcode`, { passcode: null });
  });
});

describe('a page of another site', () => {
  let site: Server;
  let address: string;
  beforeAll(async () => {
    site = createServer((_request, response) => {
      response.setHeader('content-type', 'text/html').end(`<iframe src="${main}" allow="autoplay"></iframe>`);
    }).listen(0);
    await once(site, 'listening');
    address = `http://127.0.0.1:${(site.address() as AddressInfo).port}`;
  });
  afterAll(() => site.close());

  const shown = async () => {
    const visitor = await Person.at(elsewhere, address);
    const frame = await visitor.page.waitForFrame((one) => one !== visitor.page.mainFrame());
    await frame.waitForSelector('body');
    const isThere = frame.url() === main && (await frame.$('#app')) !== null;
    await visitor.page.close();
    return isThere;
  };

  it('shows a lesson within it only where its teacher has allowed that', async () => {
    expect(await shown()).toBe(false);
    await change(tokenOf(main), { sites: [address] });
    expect(await shown()).toBe(true);
    await change(tokenOf(main), { sites: ['https://learn.example.org'] });
    expect(await shown()).toBe(false);
    await change(tokenOf(main), {});
    // The browser says why, for whoever made that page.
    const said = takeComplaints();
    expect(said.map((one) => /^Framing .* violates .*frame-ancestors/.test(one))).toEqual([true, true]);
  });
});

describe('a class', () => {
  it('finds on its page what is put there with one touch, and how far this device came', async () => {
    await teacher.press('Put it on the page of Day skippers');
    await teacher.sees('Day skippers has it.');
    // What has changed is asked for once: only the lesson's news stay open.
    await teacher.page.waitForNetworkIdle({ concurrency: 1, idleTime: 1000 });
    const page = await (
      await teacher.find('link', 'The class’s page')
    ).evaluate((one) => (one as HTMLAnchorElement).href);
    const student = await Person.at(elsewhere, page);
    await student.find('heading', 'Day skippers');
    await student.sees(COMPASS);
    await student.sees(/New/);
    await (await student.page.waitForSelector('main a'))!.click();
    await student.press('Play');
    await student.page.waitForFunction(
      () => Number(document.querySelector<HTMLInputElement>('input[aria-label="Where to play"]')!.value) > 96_000,
    );
    await student.press('Pause');
    await student.page.goBack();
    await student.page.reload();
    await student.sees(/Watched up to 0:0\d/);
    await student.page.close();

    await teacher.page.goto(classroom.school.url);
    await (await teacher.page.waitForSelector('nav ::-p-text(Day skippers)'))!.click();
    await teacher.press('Class page');
    expect(await teacher.valueOf('textbox', 'Class page')).toBe(page);
    await teacher.press('Take the page away');
    await teacher.find('button', 'Make a class page');
    const late = await Person.at(elsewhere, page);
    await late.sees('This link leads nowhere');
    await late.page.close();
    await teacher.page.keyboard.press('Escape');
  });
});

describe('the school’s catalogue', () => {
  it('has what teachers list; another one finds it, keeps it among their favourites, and copies it with its source', async () => {
    await change(tokenOf(main), { isListed: true, mayCopy: true });
    const { code } = await teacher.request<{ code: string }>('POST', '/tickets', { teacher: null });
    const colleague = await Person.at(elsewhere, classroom.school.url);
    const account = { name: 'Tove Strand', email: 'tove@example.org', password: 'kelp-and-keel-31' };
    await colleague.request('POST', '/tickets/joining', { ...account, code });
    await colleague.page.goto(`${classroom.school.url}/catalogue`);
    await (await colleague.find('searchbox', 'Find in the catalogue')).type('compass');
    await colleague.sees(COMPASS);
    await colleague.press(`${COMPASS}: a favourite`);
    await colleague.press('Favourites');
    await colleague.sees(COMPASS);
    await colleague.press('Copy into mine');
    await colleague.find('slider', 'Playhead');
    const [copy] = await colleague.request<LessonSummary[]>('GET', '/lessons');
    expect(copy).toMatchObject({ title: COMPASS, source: { title: COMPASS } });
    expect(copy.lengthSamples).toBeGreaterThan(60 * 48_000);
    await colleague.page.goto(classroom.school.url);
    await colleague.press(`What to do with ${COMPASS}`);
    await colleague.pick('Name and details');
    await colleague.sees(`From “${COMPASS}” by`);
  });
});
