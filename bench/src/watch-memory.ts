import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import { beginToShare, dragTo } from '@kite-trail/e2e/support/watching';
import { rounded } from './figures';
import { keepLongLesson } from './long-lesson';
import { processesMb } from './memory';

/** Whoever looks for something in an hour goes to so many places of it. */
const PLACES = 60;
const HOUR_S = 3600;

/** Watches a lesson of an hour on a phone, here and there: the most its browser needs for it, beside what it needs anyway. */
export async function benchWatchMemory(school: School): Promise<Record<string, number>> {
  const { title } = await keepLongLesson(school);
  const browser = await openBrowser();
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await beginToShare(teacher, title);
  const beganMs = Date.now();
  // The hour takes longer than Puppeteer waits for any one answer.
  while (!(await teacher.page.$('::-p-aria([name="Watch link"][role="textbox"])'))) await seconds(1);
  const sharedMs = Date.now() - beganMs;
  const link = await teacher.valueOf('textbox', 'Watch link');
  await browser.close();

  const phone = await openBrowser({ size: { width: 390, height: 844 } });
  const student = await Person.at(phone, 'about:blank');
  const pid = phone.process()!.pid!;
  const before = processesMb(pid);
  await student.page.goto(link);
  await student.press('Play');
  await student.find('button', 'Pause');
  let peakMb = 0;
  for (let place = 0; place < PLACES; place++) {
    await dragTo(student, ((place * 37) % PLACES) * (HOUR_S / PLACES));
    await seconds(0.5);
    peakMb = Math.max(peakMb, processesMb(pid) - before);
  }
  await phone.close();
  return { share_60min_s: rounded(sharedMs / 1000, 0), watch_memory_60min_mb: rounded(peakMb, 0) };
}

const seconds = (count: number) => new Promise((resolve) => setTimeout(resolve, count * 1000));
