import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import type { LivePage } from '@kite-trail/core/contract/live';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { afterAll, beforeAll, describe, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';
import { Soundness } from './support/soundness';

let classroom: Classroom;
let teacher: Person;
let check: () => Promise<void>;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
  ({ check } = await Soundness.of(teacher));
  await classroom.makeLesson('Lights');
});
afterAll(() => classroom?.close());

/** What can lie beside the page while the trail is edited. */
const TRIM_PANELS = ['Pauses', 'Chapters', 'Captions', 'Prompts', 'Sound', 'Versions', 'Takes'];

describe('the lesson’s screen, for all hands and eyes', () => {
  it('is sound while preparing', () => check());

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
