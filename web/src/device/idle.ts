/** How long is waited where the browser does not tell when it is idle. */
const OTHERWISE_MS = 200;

/** On a slow device that is busy all the time, an idle moment would never come. */
const AT_THE_LATEST_MS = 3000;

/** Settles when the browser has nothing better to do, or when that has taken too long. */
export const idle = (): Promise<void> =>
  new Promise((resolve) => {
    if ('requestIdleCallback' in globalThis) requestIdleCallback(() => resolve(), { timeout: AT_THE_LATEST_MS });
    else setTimeout(resolve, OTHERWISE_MS);
  });
