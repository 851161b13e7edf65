/** How long is waited where the browser does not tell when it is idle. */
const OTHERWISE_MS = 200;

/** Settles when the browser has nothing better to do. */
export const idle = (): Promise<void> =>
  new Promise((resolve) => {
    if ('requestIdleCallback' in globalThis) requestIdleCallback(() => resolve());
    else setTimeout(resolve, OTHERWISE_MS);
  });
