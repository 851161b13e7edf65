import { fileURLToPath } from 'node:url';
import type { Person } from './browser';

/** Where the README's pictures are. */
export const folder = fileURLToPath(new URL('../../../docs/screenshots/', import.meta.url));
export const WIDE = { width: 1280, height: 800 };
export const PHONE = { width: 390, height: 844, deviceScaleFactor: 2 };

/** Waits until nothing has arrived for a moment. What was left unfinished when a page was left counts as going on for ever otherwise. */
const settled = ({ page }: Person) =>
  page.waitForFunction(
    (quietMs) => {
      const seen = window as unknown as { arrived: number; sinceMs: number };
      const arrived = performance.getEntriesByType('resource').length;
      if (arrived !== seen.arrived) Object.assign(seen, { arrived, sinceMs: performance.now() });
      return performance.now() - seen.sinceMs > quietMs;
    },
    { polling: 100 },
    700,
  );

/** Takes a picture at once, while something goes on. */
export const takeNow = ({ page }: Person, name: string) =>
  page.screenshot({ path: `${folder}${name}.png` as `${string}.png` });

export async function take(person: Person, name: string): Promise<void> {
  await settled(person);
  await takeNow(person, name);
}
