import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import { median, rounded } from './figures';
import { madeLesson } from './made-lesson';

const [PAGES, STROKES_A_PAGE] = [25, 400];
const TITLE = 'Ten thousand strokes';
const TIMES = 5;

/** Opens a lesson of 10,000 strokes from Home: from the press until a pen can write on its page, which is painted. */
export async function benchOpenLesson(school: School): Promise<Record<string, number>> {
  const browser = await openBrowser();
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const lesson = await madeLesson(teacher, TITLE, PAGES, STROKES_A_PAGE);
  const spentMs: number[] = [];
  for (let n = 0; n < TIMES; n++) {
    await teacher.page.goto(school.url);
    await teacher.sees(TITLE);
    const start = await teacher.page.evaluate((id) => {
      const now = performance.now();
      document.querySelector<HTMLElement>(`a[href$="${id}"]`)!.click();
      return now;
    }, lesson.id as string);
    // Looked at before each frame: what was painted for the one before is on the screen.
    const end = await teacher.page.waitForFunction(
      () => document.querySelector('canvas.wet.writable') !== null && performance.now(),
      { polling: 'raf' },
    );
    spentMs.push(Number(await end.jsonValue()) - start);
    await teacher.stroke([0.1, 0.9], [0.5, 0.95]);
    await teacher.sees('Saved');
  }
  await browser.close();
  return { open_10000_strokes_ms: rounded(median(spentMs)) };
}
