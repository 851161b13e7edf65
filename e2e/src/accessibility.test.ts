import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import type { LivePage } from '@kite-trail/core/contract/live';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type Axe from 'axe-core';
import type { CDPSession } from 'puppeteer-core';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';

/**
 * What can be checked by a machine of WCAG 2.2 AA, by axe-core; and the size of what is touched (success criterion 2.5.5).
 * That keys reach it all, the other tests show, which find things by role and name.
 */
const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const TOUCHED_PX = 44;

let classroom: Classroom;
let teacher: Person;
let devtools: CDPSession;

/** A screen that fingers touch, in a bright or a dark room. */
const inRoom = (scheme: 'light' | 'dark') =>
  devtools.send('Emulation.setEmulatedMedia', {
    features: [
      { name: 'any-pointer', value: 'coarse' },
      { name: 'prefers-color-scheme', value: scheme },
    ],
  });

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  devtools = await teacher.page.createCDPSession();
  await devtools.send('Emulation.setTouchEmulationEnabled', { enabled: true, maxTouchPoints: 5 });
  await inRoom('light');
  await classroom.makeLesson('Lights');
});
afterAll(() => classroom?.close());

/** What is asked of axe-core: all, or only what another room may change. */
const ALL: Axe.RunOnly = {
  type: 'tag',
  values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
};
const COLORS: Axe.RunOnly = { type: 'rule', values: ['color-contrast', 'link-in-text-block'] };

async function faults(runOnly: Axe.RunOnly): Promise<string[]> {
  await teacher.page.evaluate(AXE);
  return teacher.page.evaluate(async (asked) => {
    const { axe } = window as unknown as { axe: typeof Axe };
    // The component library's cards have headings without a level.
    const { violations } = await axe.run({ exclude: ['.n-card-header'] }, { runOnly: asked });
    return violations.flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`));
  }, runOnly);
}

/** Buttons and fields that can be seen and are smaller than a finger. */
const small = () =>
  teacher.page.evaluate(
    (least) =>
      [...document.querySelectorAll<HTMLElement>('button, select, [role="button"], [role="checkbox"]')].flatMap(
        (element) => {
          // What is ticked may be touched on its label.
          const touched = element.closest('label, [role="checkbox"]') ?? element;
          const { width, height } = touched.getBoundingClientRect();
          if (width === 0 || (width >= least - 0.5 && height >= least - 0.5)) return [];
          const name = element.getAttribute('aria-label') ?? element.textContent?.trim();
          return [`${name}: ${Math.round(width)} × ${Math.round(height)}`];
        },
      ),
    TOUCHED_PX,
  );

/** What is still fading in has not got its colours yet. */
const isStill = () =>
  teacher.page.waitForFunction(() =>
    document
      .getAnimations()
      .every((one) => one.playState !== 'running' || one.effect?.getComputedTiming().iterations === Infinity),
  );

async function check() {
  await isStill();
  expect(await faults(ALL)).toEqual([]);
  expect(await small()).toEqual([]);
  // In a dark room there is the same in other colours.
  await inRoom('dark');
  await teacher.page.waitForSelector('[data-room=dark]');
  await isStill();
  expect((await faults(COLORS)).map((fault) => `in a dark room, ${fault}`)).toEqual([]);
  await inRoom('light');
  await teacher.page.waitForSelector('[data-room=bright]');
}

/** What can lie beside the page while the trail is edited. */
const TRIM_PANELS = ['Pauses', 'Chapters', 'Captions', 'Prompts', 'Sound', 'Versions', 'Takes'];

describe('the lesson’s screen, for all hands and eyes', () => {
  it('is sound while preparing', check);

  it.each(['Text and shapes', 'Measure', 'Paper', 'Size and room'])('is sound with the panel “%s”', async (name) => {
    await teacher.press(name);
    await teacher.page.waitForSelector(`section[aria-label="${name}"]`, { visible: true });
    await check();
    await teacher.press(name);
    await teacher.page.waitForSelector(`section[aria-label="${name}"]`, { hidden: true });
  });

  it('is sound with the code under which the page is followed live', async () => {
    await teacher.press('Show this page live');
    await teacher.find('dialog', 'This page is shown live');
    await check();
    await teacher.press('End it');
    await teacher.isGone('dialog', 'This page is shown live');
  });

  it('is sound with measuring tools on the page', async () => {
    await teacher.press('Measure');
    for (const name of ['Ruler', 'Set square', 'Compasses']) await teacher.press(name);
    await teacher.press('Measure');
    await teacher.page.waitForSelector('section[aria-label="Measure"]', { hidden: true });
    await check();
  });

  it('is sound with ink that is held, and with what was read of it', async () => {
    await teacher.stroke([0.1, 0.2], [0.1, 0.3]);
    await teacher.press('Take hold');
    await teacher.press('Hold all');
    await teacher.find('group', 'Ink, held');
    await check();
    await teacher.press('Read the writing');
    await teacher.find('textbox', 'What was read');
    await check();
  });

  it('is sound with the microphone being checked', async () => {
    await teacher.page.keyboard.press('Escape');
    await teacher.isGone('textbox', 'What was read');
    await teacher.press('Night pen');
    await teacher.press('Record');
    await teacher.choose('Voice from', 'simulated');
    await teacher.press('Check it');
    await teacher.find('button', 'Measure by tapping');
    await check();
    await teacher.page.keyboard.press('Escape');
    await teacher.isGone('button', 'Measure by tapping');
  });

  it('is sound while recording, with a stretch to be done over, and with takes to choose from', async () => {
    await teacher.press('Record this lesson');
    await teacher.find('button', 'Pause');
    await teacher.stroke([0.2, 0.2], [0.6, 0.3]);
    await check();
    await teacher.press('Stop');
    await teacher.find('slider', 'Playhead');
    await teacher.press('Record');
    await teacher.press('This page’s part');
    await teacher.find('slider', 'Start of the stretch');
    await check();
    await teacher.press('New voice');
    await teacher.find('button', 'Hold ink');
    await check();
    await teacher.press('Stop');
    await teacher.find('group', 'Choose a take');
    await check();
    await teacher.press('Use the new one');
    await teacher.press('Takes');
    await teacher.find('button', 'Hear Take 1');
    await check();
  });

  it.each(TRIM_PANELS)('is sound while trimming, with the panel “%s”', async (name) => {
    if (name === TRIM_PANELS[0]) {
      await teacher.press('Close the takes');
      await teacher.press('Trim');
    }
    await teacher.press(name);
    await teacher.find('button', `Close the ${name.toLowerCase()}`);
    if (name === 'Captions') await teacher.press('Lay out');
    if (name === 'Prompts') await (await teacher.page.waitForSelector('button ::-p-text(Ask at)'))!.click();
    await check();
  });

  it('is sound with a stretch or ink chosen on the trail', async () => {
    await teacher.press('Choose this part');
    await teacher.find('button', 'Cut, keep ink');
    await check();
    await teacher.press('Choose no stretch');
    await (await teacher.find('slider', 'Playhead')).focus();
    await teacher.page.keyboard.press('End');
    const { x, y, width, height } = (await (await teacher.find('image', 'Page')).boundingBox())!;
    await teacher.page.mouse.click(x + 0.4 * width, y + 0.25 * height);
    await teacher.find('group', 'Chosen ink');
    await check();
  });
});

describe('all other screens', () => {
  it('are sound: what students watch', async () => {
    await teacher.page.keyboard.press('Escape');
    await teacher.press('Share');
    await teacher.press('Make a watch link');
    const link = await teacher.valueOf('textbox', 'Watch link');
    await check();
    await teacher.press('All links and their rules');
    await teacher.press('Rules of The lesson');
    await teacher.find('button', 'Keep');
    await check();
    await (await teacher.find('checkbox', 'Leave questions, and read those you answer')).click();
    await teacher.press('Keep');
    await teacher.isGone('button', 'Keep');
    await teacher.page.keyboard.press('Escape');
    await teacher.isGone('dialog', 'Links to this lesson');
    await teacher.press('Not watched yet');
    await teacher.find('switch', 'Count how this lesson is watched');
    await check();
    await teacher.page.goto(link);
    await teacher.find('button', 'Play');
    await check();
    await teacher.press('More');
    await teacher.find('button', 'Print the pages');
    await check();
    await teacher.press('Questions');
    await teacher.find('button', 'Send');
    await check();
    await (await teacher.page.waitForSelector('.entry'))!.click();
    await teacher.find('dialog', 'What comes next?');
    await check();
  });

  it('are sound: a class’s page', async () => {
    const [{ id }] = await teacher.request<SchoolClass[]>('GET', '/classes');
    await teacher.request('POST', `/classes/${id}/page`);
    const [{ pageToken, name }] = await teacher.request<SchoolClass[]>('GET', '/classes');
    await teacher.page.goto(`${classroom.school.url}/c/${pageToken}`);
    await teacher.find('heading', name);
    await check();
  });

  it('are sound: a page that is followed live', async () => {
    const [{ id }] = await teacher.request<LessonSummary[]>('GET', '/lessons');
    const { code } = await teacher.request<LivePage>('POST', `/lessons/${id}/live`);
    await teacher.page.goto(`${classroom.school.url}/live/${code}`);
    await teacher.sees('Your teacher is away from the page.');
    await check();
  });

  it.each([
    ['/live', 'Follow'],
    ['/', 'New lesson'],
    ['/bin', 'New class'],
    ['/catalogue', 'Favourites'],
    ['/recordings', 'New class'],
    ['/space', 'New class'],
    ['/?find=twelfths', 'New class'],
    ['/account', 'Keep the changes'],
    ['/teachers', 'Invite a teacher'],
  ])('are sound: %s', async (path, button) => {
    await teacher.page.goto(classroom.school.url + path);
    await teacher.find('button', button);
    await check();
  });

  it('are sound: the door', async () => {
    await teacher.page.goto(classroom.school.url);
    await teacher.press('Sign out');
    await teacher.find('button', 'Sign in');
    await check();
  });
});
