import { secondsToSamples } from '@kite-trail/core/trail/clock';
import type { Person } from './browser';
import type { Viewer } from './viewer';

/** Shares a lesson that stands on Home. @returns its link */
export async function shareFromHome(teacher: Person, title: string): Promise<string> {
  await beginToShare(teacher, title);
  // Minutes of sound are mastered, encoded, and decoded for trial.
  await teacher.page.waitForSelector('::-p-aria([name="Watch link"][role="textbox"])', { timeout: 100_000 });
  return teacher.valueOf('textbox', 'Watch link');
}

/** Asks for the link of a lesson that stands on Home; the longer it is, the longer its sound takes. */
export async function beginToShare(teacher: Person, title: string): Promise<void> {
  await (await teacher.page.waitForSelector(`::-p-text(${title})`))!.click();
  await teacher.press('Share');
  await teacher.press('Make a watch link');
}

/** Where a student is, in seconds. */
export const secondsWatched = (student: Pick<Viewer, 'run'>): Promise<number> =>
  student.run(
    (second) => Number(document.querySelector<HTMLInputElement>('input[aria-label="Where to play"]')!.value) / second,
    secondsToSamples(1),
  );

/** A student drags the playhead to a moment. */
export const dragTo = (student: Pick<Viewer, 'run'>, seconds: number): Promise<void> =>
  student.run((samples) => {
    const bar = document.querySelector<HTMLInputElement>('input[aria-label="Where to play"]')!;
    bar.value = String(samples);
    bar.dispatchEvent(new Event('input', { bubbles: true }));
  }, secondsToSamples(seconds));
