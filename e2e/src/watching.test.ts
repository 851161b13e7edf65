import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Person } from './support/browser';
import { openClassroom, type Classroom } from './support/classroom';

let classroom: Classroom;
let student: Person;

beforeAll(async () => {
  classroom = await openClassroom();
  const { teacher } = classroom;
  await (await teacher.page.waitForSelector('::-p-text(The rule of twelfths)'))!.click();
  await teacher.press('Share');
  await teacher.press('Make a watch link');
  // Two minutes of sound are mastered, encoded, and decoded for trial.
  await teacher.page.waitForSelector('::-p-aria([name="Watch link"][role="textbox"])', { timeout: 100_000 });
  student = await Person.at(classroom.browser, await teacher.valueOf('textbox', 'Watch link'));
  await student.page.setViewport({ width: 360, height: 740 });
  await student.find('button', 'Play');
});
afterAll(() => classroom?.close());

const seconds = async () => Number(await student.valueOf('slider', 'Where to play')) / 48_000;

describe('a phone held upright', () => {
  it('has the pages below the controls, and goes to where one is explained', async () => {
    await student.press('Page 2');
    await expect.poll(seconds).toBeGreaterThan(30);
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
    const play = (await (await student.find('button', 'Play')).boundingBox())!;
    expect(page.width).toBeGreaterThan(340);
    expect(play.y - (page.y + page.height)).toBeLessThan(80);
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
