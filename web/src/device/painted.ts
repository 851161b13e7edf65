/** In a window that is out of sight, nothing is painted; nobody waits for it either. */
const LATEST_MS = 100;
/** So long after a frame's script the browser still rasterises and presents it, on other threads but maybe the same cores. */
const PRESENTED_AFTER_MS = 25;

/** Settles when what has been changed is on screen, so that work nobody sees does not delay it. */
export const painted = (): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, LATEST_MS);
    globalThis.requestAnimationFrame?.(() => setTimeout(resolve, PRESENTED_AFTER_MS));
  });
