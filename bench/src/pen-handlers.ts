import type { Page } from 'puppeteer-core';

/** Times every handler of a pen event, from its start to its end, on pages that are opened from now on. */
export async function timePenHandlers(page: Page): Promise<void> {
  await page.evaluateOnNewDocument(() => {
    const spentMs: number[] = [];
    Object.assign(window, { spentMs });
    const add = EventTarget.prototype.addEventListener;
    EventTarget.prototype.addEventListener = function (this: EventTarget, type: string, handler, options) {
      if (!type.startsWith('pointer') || typeof handler !== 'function') return add.call(this, type, handler, options);
      return add.call(
        this,
        type,
        (event: Event) => {
          const start = performance.now();
          handler.call(this, event);
          spentMs.push(performance.now() - start);
        },
        options,
      );
    } as typeof add;
  });
}

/** What was measured since it was last asked for. */
export const takeSpentMs = (page: Page): Promise<number[]> =>
  page.evaluate(() => (window as unknown as { spentMs: number[] }).spentMs.splice(0));
