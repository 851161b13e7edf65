import type { BrowserContext } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';

let classroom: Classroom;
let teacher: Person;
let elsewhere: BrowserContext;
let student: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  teacher = classroom.teacher;
  elsewhere = await classroom.browser.createBrowserContext();
});
afterAll(() => classroom?.close());

/** The code that stands in the teacher's dialog. */
const codeShown = async (): Promise<string> => {
  await teacher.find('dialog', 'This page is shown live');
  return teacher.run(() => document.querySelector('[aria-label^="Code "]')!.textContent!.trim());
};

/** How much is on a layer of the page, in hundredths of what there is room for. */
const inkOn = (person: Person, layer: 'settled' | 'wet') =>
  person.run((name) => {
    const canvas = document.querySelector<HTMLCanvasElement>(`canvas.${name}`);
    if (!canvas || canvas.width === 0) return -1;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    let count = 0;
    for (let at = 0; at < data.length; at += 4) if (data[at] < 110 && data[at + 3] > 128) count++;
    return (400 * count) / data.length;
  }, layer);

/** What follows shows as much ink as the teacher's page has. */
const isAlike = async (follower: Person) => {
  const [seen, written] = [await inkOn(follower, 'settled'), await inkOn(teacher, 'settled')];
  return seen > 0 && Math.abs(seen - written) < 0.25 * written;
};

const followed = (person: Person) => person.find('image', 'The page as it is written');

describe('a page that is shown live', () => {
  it('is followed by its code, with the ink that is still wet', async () => {
    await classroom.makeLesson('Shown live');
    await teacher.press('Show this page live');
    const code = await codeShown();
    expect(code).toMatch(/^[2-9A-HJKMNP-Z]{3} [2-9A-HJKMNP-Z]{3}$/);
    await teacher.sees('Nobody follows yet.');

    student = await Person.at(elsewhere, `${classroom.school.url}/live`);
    await student.page.setViewport({ width: 360, height: 740, isMobile: true, hasTouch: true });
    await student.fill('Code', 'ZZZ 999');
    await student.press('Follow');
    await student.sees('No page is shown under this code just now.');
    await student.fill('Code', code.toLowerCase());
    await student.press('Follow');
    await followed(student);
    await teacher.sees('1 screen follows.');
    await teacher.press('Go on writing');

    await teacher.pen('mousePressed', 0.2, 0.3, 0.5);
    for (let n = 1; n <= 20; n++) await teacher.pen('mouseMoved', 0.2 + n * 0.02, 0.3, 0.6);
    // The pen is still down.
    await expect.poll(() => inkOn(student, 'wet')).toBeGreaterThan(0);
    expect(await inkOn(teacher, 'wet')).toBeGreaterThan(0);
    await teacher.pen('mouseReleased', 0.6, 0.3, 0);
    await expect.poll(() => inkOn(student, 'wet')).toBe(0);
    await expect.poll(() => isAlike(student)).toBe(true);
  });

  it('is seen whole by whoever comes late, and as it is looked at, turned and rubbed out', async () => {
    await teacher.stroke([0.2, 0.5], [0.8, 0.5]);
    const code = await codeOf();
    const late = await Person.at(elsewhere, `${classroom.school.url}/live/${code}`);
    await followed(late);
    await expect.poll(() => isAlike(late)).toBe(true);
    await expect.poll(() => isAlike(student)).toBe(true);

    await teacher.press('Undo');
    await expect.poll(() => isAlike(late)).toBe(true);
    await teacher.press('Add a page');
    await expect.poll(() => inkOn(late, 'settled')).toBe(0);
    await teacher.stroke([0.3, 0.2], [0.3, 0.8]);
    await expect.poll(() => isAlike(late)).toBe(true);

    // One's own look stays one's own, until one comes back.
    await late.page.mouse.move(300, 300);
    await late.page.mouse.wheel({ deltaY: -400 });
    await late.press('Follow again');
    await late.isGone('button', 'Follow again');
    await late.page.close();
  });

  it('goes on after the school was away, with all that was written meanwhile', async () => {
    await classroom.school.kill();
    await student.sees('There is no connection just now.');
    await teacher.stroke([0.6, 0.2], [0.6, 0.8]);
    await classroom.school.begin();
    await expect.poll(() => isAlike(student)).toBe(true);
    await student.isGone('status', 'There is no connection just now.');
  });

  it('goes on when the teacher’s window is loaded anew, and waits while they are away', async () => {
    const before = await codeOf();
    await teacher.page.reload();
    await teacher.find('image', 'Page to write on');
    expect(await codeOf()).toBe(before);
    // Nothing of what was told before is known to whoever comes now.
    await student.page.reload();
    await expect.poll(() => isAlike(student)).toBe(true);
    await teacher.page.goto(classroom.school.url);
    await student.sees('Your teacher is away from the page.');
    // What was seen last is there to be copied.
    expect(await inkOn(student, 'settled')).toBeGreaterThan(0);
    await teacher.page.goBack();
    await teacher.find('image', 'Page to write on');
    await student.page.reload();
    await expect.poll(() => isAlike(student)).toBe(true);
  });

  it('goes over lines that let no sockets through', async () => {
    const walled = async (person: Person) => {
      await person.page.evaluateOnNewDocument(() => {
        class Walled extends EventTarget {
          static OPEN = 1;
          readyState = 3;
          onclose?: (event: { code: number }) => void;
          constructor() {
            super();
            setTimeout(() => this.onclose?.({ code: 1006 }));
          }
          close() {}
        }
        Object.assign(window, { WebSocket: Walled });
      });
      await person.page.reload();
    };
    await walled(student);
    await followed(student);
    await walled(teacher);
    await teacher.find('image', 'Page to write on');
    await teacher.stroke([0.8, 0.2], [0.8, 0.8]);
    await expect.poll(() => isAlike(student)).toBe(true);
    await teacher.pen('mousePressed', 0.1, 0.9, 0.5);
    for (let n = 1; n <= 20; n++) await teacher.pen('mouseMoved', 0.1 + n * 0.02, 0.9, 0.6);
    await expect.poll(() => inkOn(student, 'wet')).toBeGreaterThan(0);
    await teacher.pen('mouseReleased', 0.5, 0.9, 0);
  });

  it('is over when the teacher ends it', async () => {
    const address = student.page.url();
    await teacher.press('Show this page live');
    await teacher.press('End it');
    await student.sees('This page is not shown any more.');
    await student.press('Another code', 'link');
    await student.find('textbox', 'Code');
    await student.page.goto(address);
    await student.sees('No page is shown under this code just now.');
  });
});

/** Opens the dialog, reads the code and closes it. */
async function codeOf(): Promise<string> {
  await teacher.press('Show this page live');
  const code = await codeShown();
  await teacher.press('Go on writing');
  await teacher.isGone('dialog', 'This page is shown live');
  return code.replace(' ', '');
}
