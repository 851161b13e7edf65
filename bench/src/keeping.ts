import { mkdtempSync, readdirSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { trim } from '@kite-trail/core/trail/edit';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person, savesInto } from '@kite-trail/e2e/support/browser';
import { openElsewhere } from '@kite-trail/e2e/support/lessons';
import type { School } from '@kite-trail/e2e/support/school';
import { rounded } from './figures';
import { keepLongLesson } from './long-lesson';
import { madeLesson } from './made-lesson';

const PAGE_SECONDS = 600;
const HANDOUT = { pages: 200, strokesEach: 60 };

/** Takes an hour's lesson out as an archive, and ten minutes of it as an offline page; prints a lesson of 200 pages. */
export async function benchKeeping(school: School): Promise<Record<string, number>> {
  const { id } = await keepLongLesson(school);
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-bench-'));
  const browser = await openBrowser();
  await savesInto(browser, folder);
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  const startMs = performance.now();
  const archiveBytes = await teacher.page.evaluate(
    async (path) => (await (await fetch(path)).blob()).size,
    `/api/lessons/${id}/archive`,
  );
  const archiveSeconds = (performance.now() - startMs) / 1000;

  const { edit, edition } = await teacher.request<LessonDocument>('GET', `/lessons/${id}`);
  const programme = trim(edition.programme, 0, secondsToSamples(PAGE_SECONDS));
  await teacher.request('PUT', `/lessons/${id}/edition`, { from: edit, edition: { ...edition, programme } });
  await teacher.page.goto(`${school.url}/lesson/${id}/share`);
  await openElsewhere(teacher);
  await teacher.press('Make the page');
  await teacher.page.waitForSelector('a[download$=".html"]', { timeout: 10 * 60_000 });
  await teacher.page.locator('a[download$=".html"]').click();
  const made = () => readdirSync(folder).find((name) => name.endsWith('.html'));
  while (!made()) await pause(100);
  const pageBytes = statSync(join(folder, made()!)).size;
  const printed = await madeLesson(teacher, 'Two hundred pages', HANDOUT.pages, HANDOUT.strokesEach);
  await teacher.page.goto(`${school.url}/lesson/${printed.id}/share`);
  await teacher.find('button', 'Make a hand-out');
  const printedFromMs = performance.now();
  await teacher.press('Make a hand-out');
  await teacher.page.waitForSelector('a[download$=".pdf"]', { timeout: 10 * 60_000 });
  const handoutSeconds = (performance.now() - printedFromMs) / 1000;
  await browser.close();
  return {
    pdf_handout_200_pages_s: rounded(handoutSeconds),
    archive_60min_s: rounded(archiveSeconds),
    archive_60min_mb: rounded(archiveBytes / 1e6),
    offline_page_10min_mb: rounded(pageBytes / 1e6),
  };
}
