import type { Page } from 'puppeteer-core';

/**
 * Lets tests see how far a page has come with what it plays from the beginning: by the audio context's own clock of what is
 * heard, as the browser ties it to the page's (W3C Web Audio, `getOutputTimestamp`).
 */
export async function noteSounds(page: Page): Promise<void> {
  await page.evaluateOnNewDocument(() => {
    let run: { context: AudioContext; beganSeconds: number; untilSeconds: number } | null = null;
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (this: AudioBufferSourceNode, when = 0) {
      const context = this.context as AudioContext;
      const goesOn = run?.context === context && Math.abs(when - run.untilSeconds) < 0.01;
      const untilSeconds = when + this.buffer!.duration;
      run = { context, beganSeconds: goesOn ? run!.beganSeconds : when, untilSeconds };
      start.call(this, when);
    };
    const heardSeconds = () => {
      if (!run) return null;
      const { contextTime = 0, performanceTime = 0 } = run.context.getOutputTimestamp();
      return contextTime + (performance.now() - performanceTime) / 1000 - run.beganSeconds;
    };
    Object.assign(window, { heardSeconds });
  });
}

/** Where what is heard drifts more against the page's clock, the machine itself stalled, and nothing can be told from it. */
const UNEVEN_SECONDS = 0.005;
/** So long the sound must have run evenly before a look: the replay's clock is told from what was heard until then. */
const EVEN_FOR_SECONDS = 1;

/** At which second of the sound ink was first seen, and at which it could not have been there yet: two looks before. */
export interface Appearance {
  seconds: number;
  notBefore: number;
  /** Whether the sound ran evenly until then. */
  isEven: boolean;
}

/**
 * Watches a replay frame by frame: when each place of the page (parts of its width and height) first grows dark. Settles
 * when all have. What a frame paints may be seen only by the next frame's look.
 */
export function watchInkAppear(page: Page, places: readonly (readonly [number, number])[]): Promise<Appearance[]> {
  return page.evaluate(
    (spots, unevenSeconds, evenForSeconds) =>
      new Promise<Appearance[]>((resolve) => {
        const canvas = document.querySelector('canvas.settled') as HTMLCanvasElement;
        const surface = canvas.getContext('2d')!;
        const { heardSeconds } = window as unknown as { heardSeconds(): number | null };
        const seen: Appearance[] = [];
        let looks: number[] = [0, 0];
        // How far what is heard is ahead of the page's clock, at each look of the last second.
        let aheads: { atSeconds: number; seconds: number }[] = [];
        const isEven = () => {
          const seconds = aheads.map((one) => one.seconds);
          return Math.max(...seconds) - Math.min(...seconds) < unevenSeconds;
        };
        requestAnimationFrame(function look() {
          const now = heardSeconds();
          if (now !== null) {
            const atSeconds = performance.now() / 1000;
            aheads = aheads.filter((one) => one.atSeconds > atSeconds - evenForSeconds);
            aheads.push({ atSeconds, seconds: now - atSeconds });
          }
          for (let n = 0; n < spots.length && now !== null; n++) {
            if (seen[n] !== undefined) continue;
            const [x, y] = [Math.round(spots[n][0] * canvas.width), Math.round(spots[n][1] * canvas.height)];
            const { data } = surface.getImageData(x - 3, y - 3, 7, 7);
            const isDark = data.some((value, i) => i % 4 === 0 && value < 120);
            if (isDark) seen[n] = { seconds: now, notBefore: looks[0], isEven: isEven() };
          }
          if (now !== null) looks = [looks[1], now];
          if (seen.filter((one) => one !== undefined).length === spots.length) resolve(seen);
          else requestAnimationFrame(look);
        });
      }),
    places,
    UNEVEN_SECONDS,
    EVEN_FOR_SECONDS,
  );
}
