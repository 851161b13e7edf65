import { readdirSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { containerOf, USUAL_FILM, type FilmSettings } from '@kite-trail/core/film/settings';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import { openBrowser, Person, savesInto } from '@kite-trail/e2e/support/browser';
import type { School } from '@kite-trail/e2e/support/school';
import { processesMb } from './memory';

const COLLECT_EVERY_MS = 30_000;

/**
 * Exports a lesson of the demo's teacher as a teacher does, into a folder.
 * @param settings what the film is like, where it is not as usual
 * @returns how long it took; what the browser held meanwhile beyond what it held before, five times a second; and what
 * of that it could not do without, every half minute
 */
export async function exportInBrowser(
  school: School,
  title: string,
  folder: string,
  settings: Partial<FilmSettings> = {},
): Promise<{ seconds: number; memoryMb: number[]; neededMb: number[] }> {
  const browser = await openBrowser();
  await savesInto(browser, folder);
  const teacher = await Person.at(browser, school.url);
  await teacher.signIn(DEMO_TEACHER.email, DEMO_TEACHER.password);
  await (await teacher.page.waitForSelector(`::-p-text(${title})`))!.click();
  await teacher.press('Share');
  await teacher.page.waitForNetworkIdle({ concurrency: 1 });
  const film = { ...USUAL_FILM, ...settings };
  await teacher.page.evaluate((kept) => localStorage.setItem('kite-trail-film', kept), JSON.stringify(film));
  await teacher.page.reload();
  await teacher.find('heading', 'Video');
  await teacher.page.waitForNetworkIdle({ concurrency: 1 });
  const heldMb = () => processesMb(browser.process()!.pid!);
  const before = heldMb();
  const memoryMb: number[] = [];
  const neededMb: number[] = [];
  const startMs = performance.now();
  await teacher.press('Make a video');
  // Looks by the cheapest means: asking for roles and names many times a second takes a fifth of the machine.
  while (!(await teacher.page.$('a[download]'))) {
    memoryMb.push(heldMb() - before);
    if (performance.now() - startMs > (neededMb.length + 1) * COLLECT_EVERY_MS) {
      await collectGarbage(teacher.page);
      neededMb.push(heldMb() - before);
    }
    await pause(200);
  }
  const seconds = (performance.now() - startMs) / 1000;
  const ending = `.${containerOf(film.codec)}`;
  await teacher.press(`Save ${title}${ending}`, 'link');
  while (!readdirSync(folder).some((name) => name.endsWith(ending))) await pause(100);
  await browser.close();
  return { seconds, memoryMb, neededMb };
}

/** Browsers put off collecting garbage while there is room, so only what is left after it tells what is needed. */
async function collectGarbage(page: Person['page']): Promise<void> {
  for (const { client } of page.workers()) await client.send('HeapProfiler.collectGarbage').catch(() => {});
  await pause(1000);
}
