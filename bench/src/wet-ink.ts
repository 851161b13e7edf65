import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import { p95, rounded } from './figures';
import { madeLesson } from './made-lesson';
import { takeSpentMs, timePenHandlers } from './pen-handlers';

const STROKES_ON_PAGE = 600;

/** Writes on a page that holds 600 strokes; times every handler of a pen event, from its start to its end. */
export async function benchWetInk(school: School): Promise<Record<string, number>> {
  const browser = await openBrowser();
  const teacher = await Person.at(browser, 'about:blank');
  await timePenHandlers(teacher.page);
  await teacher.page.goto(school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const lesson = await madeLesson(teacher, 'A full page', 1, STROKES_ON_PAGE);
  await teacher.page.goto(`${school.url}/lesson/${lesson.id}`);
  await teacher.find('image', 'Page to write on');
  await takeSpentMs(teacher.page);
  for (let n = 0; n < 12; n++) await teacher.stroke([0.05, 0.1 + n * 0.07], [0.95, 0.14 + n * 0.07], 100);
  const spentMs = await takeSpentMs(teacher.page);
  await browser.close();
  return { wet_ink_script_p95_ms: rounded(p95(spentMs)), wet_ink_script_max_ms: rounded(Math.max(...spentMs)) };
}
