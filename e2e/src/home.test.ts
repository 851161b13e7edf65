import { DEMO_COLLEAGUE } from '@kite-trail/demo/teachers';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';

let classroom: Classroom;
let teacher: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  ({ teacher } = classroom);
});
afterAll(() => classroom?.close());

/** The lessons that are seen, in their order. */
const seen = () => teacher.page.$$eval('main li .title', (all) => all.map((one) => one.textContent));
const menuOf = (lesson: string) => teacher.press(`What to do with ${lesson}`);
const go = async (way: string) => {
  await teacher.press(way, 'link');
};
const inClass = (name: string) => teacher.page.locator(`nav ::-p-text(${name})`).click();

const TIDE = 'The rule of twelfths';
const COMPASS = 'From chart to compass';
const SHEET = 'Heights of tide: the worksheet';
const CHART = 'Into Sandhaven: reading the chart';

describe('lessons on Home', () => {
  it('are found class by class, in the order in which they are taught', async () => {
    await inClass('Day skippers');
    await expect.poll(seen).toEqual([CHART, SHEET, COMPASS, TIDE]);
    await menuOf(TIDE);
    await teacher.pick('Earlier');
    await expect.poll(seen).toEqual([CHART, SHEET, TIDE, COMPASS]);
    await teacher.page.reload();
    await expect.poll(seen).toEqual([CHART, SHEET, TIDE, COMPASS]);
    await teacher.choose('Sorted', 'title');
    await expect.poll(seen).toEqual([COMPASS, SHEET, CHART, TIDE]);
    await teacher.choose('Sorted', 'taught');
  });

  it('are dragged to another place of their class, and to another class', async () => {
    const middleOf = (selector: string) =>
      teacher.page.$eval(selector, (one) => {
        const { x, y, width, height } = one.getBoundingClientRect();
        return { x: x + width / 2, y: y + height / 2 };
      });
    const drag = async (from: string, to: string) => {
      const [a, b] = [await middleOf(from), await middleOf(to)];
      await teacher.page.mouse.move(a.x, a.y);
      await teacher.page.mouse.down();
      await teacher.page.mouse.move(a.x + 12, a.y + 12, { steps: 4 });
      await teacher.page.mouse.move(b.x, b.y, { steps: 30 });
      // A hand comes to rest there, once what it passed has moved aside.
      await teacher.page.waitForFunction(() => document.getAnimations().every((one) => one.playState !== 'running'));
      await teacher.page.mouse.move(b.x + 3, b.y, { steps: 3 });
      await teacher.page.mouse.up();
    };
    const card = (n: number) => `main li:nth-of-type(${n}) img`;
    await drag(card(1), card(2));
    await expect.poll(seen).toEqual([SHEET, CHART, TIDE, COMPASS]);
    // The others stay as they stand.
    await drag(card(3), 'nav .drop:nth-child(3) .title');
    await expect.poll(seen).toEqual([SHEET, CHART, COMPASS]);
    await inClass('Young sailors');
    await expect.poll(seen).toEqual([TIDE]);
    await inClass('Day skippers');
    await expect.poll(seen).toEqual([SHEET, CHART, COMPASS]);
    // From all lessons, one more class has it, and it is seen among them as before.
    await go('All lessons');
    await expect.poll(async () => (await seen()).length).toBe(5);
    const before = await seen();
    const [which] = before;
    await drag(card(1), 'nav .drop:nth-child(2) .title');
    await expect.poll(() => teacher.page.$eval('nav .drop:nth-child(2) .count', (one) => one.textContent)).toBe('2');
    expect(await seen()).toEqual(before);
    await inClass('Competent crew');
    await expect.poll(seen).toContain(which);
    await menuOf(which!);
    await teacher.pick('Take out of Competent crew');
    await expect.poll(seen).not.toContain(which);
  });

  it('are chosen and moved by keys and touch alone, and may stay where they were', async () => {
    await inClass('Day skippers');
    await expect.poll(seen).toHaveLength(3);
    await menuOf(COMPASS);
    await teacher.pick('Choose');
    await (await teacher.find('checkbox', `Choose ${SHEET}`)).focus();
    await teacher.page.keyboard.press('Space');
    await teacher.sees('2 chosen');
    await teacher.press('Move');
    await (await teacher.find('checkbox', 'It stays in Day skippers, too')).click();
    await (await teacher.find('button', 'Young sailors')).focus();
    await teacher.page.keyboard.press('Enter');
    await teacher.isGone('button', 'Choose none');
    await expect.poll(seen).toHaveLength(3);
    await inClass('Young sailors');
    await expect.poll(async () => (await seen()).slice(-2)).toEqual([SHEET, COMPASS]);
  });

  it('get a name, details, and a star; what is said about them is found', async () => {
    await menuOf(TIDE);
    await teacher.pick('Name and details');
    await teacher.fill('Lesson name', 'The rule of twelfths, again');
    await teacher.press('More details');
    await teacher.fill('What it is about', 'How high the water is between the tides');
    await teacher.press('Keep');
    await teacher.isGone('textbox', 'Lesson name');
    await expect.poll(seen).toContain('The rule of twelfths, again');
    await (await teacher.find('button', `${COMPASS}: a favourite`)).focus();
    await teacher.page.keyboard.press('Enter');
    await go('Favourites');
    await expect.poll(seen).toEqual([COMPASS]);
    const search = await teacher.find('searchbox', 'Find in all lessons');
    await search.type('between tides');
    await teacher.sees('Found in 1 lesson');
    await teacher.sees('How high the water is between the tides');
    await search.click({ count: 3 });
    await teacher.page.keyboard.press('Backspace');
    await expect.poll(seen).toEqual([COMPASS]);
  });

  it('are duplicated, binned, brought back at once, and gone for good only when that is sure', async () => {
    await go('All lessons');
    await menuOf(COMPASS);
    await teacher.pick('Duplicate');
    const copy = `${COMPASS} (copy)`;
    await expect.poll(seen).toContain(copy);
    await menuOf(copy);
    await teacher.pick('Put into the bin');
    await teacher.sees('1 lesson went into the bin.');
    await expect.poll(seen).not.toContain(copy);
    await teacher.press('Undo');
    await expect.poll(seen).toContain(copy);
    await menuOf(copy);
    await teacher.pick('Put into the bin');
    await go('Bin');
    await expect.poll(seen).toEqual([copy]);
    // Whoever opens it there is told, and can put it back.
    await teacher.page.locator(`main .title ::-p-text(${copy})`).click();
    await teacher.sees('This lesson lies in the bin.');
    await teacher.press('Put it back');
    await teacher.isGone('button', 'Put it back');
    await teacher.press('All lessons', 'link');
    await menuOf(copy);
    await teacher.pick('Put into the bin');
    await go('Bin');
    await menuOf(copy);
    await teacher.pick('Delete for good');
    await teacher.press('Keep');
    await expect.poll(seen).toEqual([copy]);
    await menuOf(copy);
    await teacher.pick('Delete for good');
    await teacher.press('Delete for good');
    await teacher.sees('The bin is empty.');
  });

  it('are in classes that are made, coloured, set apart and deleted', async () => {
    await teacher.press('New class');
    await teacher.fill('Class name', 'קבוצת ערב');
    await teacher.page.locator('label[title=heather]').click();
    await teacher.press('Make the class');
    await inClass('קבוצת ערב');
    await teacher.sees('There are no lessons here yet.');
    await teacher.press('New lesson');
    await teacher.fill('Name', 'Night sailing');
    await teacher.press('Make the lesson');
    await teacher.find('image', 'Page to write on');
    await teacher.press('All lessons', 'link');
    await inClass('קבוצת ערב');
    await expect.poll(seen).toEqual(['Night sailing']);
    await teacher.press('Class details');
    await (await teacher.find('checkbox', 'A past class: it stands apart, with its lessons')).click();
    await teacher.press('Keep');
    await teacher.press('Past classes');
    await go('All lessons');
    await expect.poll(async () => (await seen()).length).toBeGreaterThan(3);
    expect(await seen()).not.toContain('Night sailing');
    await inClass('קבוצת ערב');
    await teacher.press('Class details');
    await teacher.press('Delete the class');
    await teacher.page.locator('.n-card ::-p-text(Its lessons stay)').wait();
    await (await teacher.page.$$('::-p-aria([name="Delete the class"])')).at(-1)!.click();
    await expect.poll(seen).toContain('Night sailing');
  });
});

describe('what is found', () => {
  it('opens the lesson at the moment at which it is said', async () => {
    await go('All lessons');
    const lessons = await teacher.request<{ id: string; title: string }[]>('GET', '/lessons');
    const { id } = lessons.find(({ title }) => title === COMPASS)!;
    await teacher.page.goto(`${classroom.school.url}/?find=compass`);
    // The school reads new lessons through while they are looked for: more is found by and by.
    const found = await teacher.page.waitForSelector(`main .place[href*="${id}"][href*="at="]`);
    const said = await found!.evaluate((one) => (one as HTMLAnchorElement).href);
    await teacher.page.goto(said);
    const at = Number(new URL(said).searchParams.get('at'));
    await expect
      .poll(async () =>
        Number(await (await teacher.find('slider', 'Playhead')).evaluate((one) => one.getAttribute('aria-valuenow'))),
      )
      .toBeCloseTo(at, -3);
  });
});

describe('across all lessons', () => {
  it('recordings and room are told', async () => {
    await teacher.page.goto(classroom.school.url);
    await go('Recordings');
    await teacher.sees(COMPASS);
    await teacher.sees('plays');
    await go('Space');
    await teacher.sees('What takes most');
    await teacher.sees('Room left');
  });
});

describe('a lesson that is handed over', () => {
  it('is the colleague’s from then on, and its giver’s no more', async () => {
    await teacher.page.goto(classroom.school.url);
    await menuOf(CHART);
    await teacher.pick('Hand over to a colleague');
    await teacher.press(DEMO_COLLEAGUE.name);
    await teacher.press('Hand over');
    await teacher.isGone('button', `What to do with ${CHART}`);
    await teacher.press('Sign out');
    await teacher.signIn(DEMO_COLLEAGUE.email, DEMO_COLLEAGUE.password);
    await teacher.find('button', `What to do with ${CHART}`);
    await (await teacher.page.waitForSelector(`::-p-text(${CHART})`))!.click();
    await teacher.find('image', 'Page to write on');
    // Its chart has come along.
    await expect.poll(() => teacher.page.$('.missing')).toBeNull();
  });
});
