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

/** At which second of the sound ink was first seen, and at which it could not have been there yet: two looks before. */
export interface Appearance {
  seconds: number;
  notBefore: number;
}

/**
 * Watches a replay frame by frame: when each place of the page (parts of its width and height) first grows dark. Settles
 * when all have. What a frame paints may be seen only by the next frame's look.
 */
export function watchInkAppear(page: Page, places: readonly (readonly [number, number])[]): Promise<Appearance[]> {
  return page.evaluate(
    (spots) =>
      new Promise<Appearance[]>((resolve) => {
        const canvas = document.querySelector('canvas.settled') as HTMLCanvasElement;
        const surface = canvas.getContext('2d')!;
        const { heardSeconds } = window as unknown as { heardSeconds(): number | null };
        const seen: Appearance[] = [];
        let looks: number[] = [0, 0];
        requestAnimationFrame(function look() {
          const now = heardSeconds();
          for (let n = 0; n < spots.length && now !== null; n++) {
            if (seen[n] !== undefined) continue;
            const [x, y] = [Math.round(spots[n][0] * canvas.width), Math.round(spots[n][1] * canvas.height)];
            const { data } = surface.getImageData(x - 3, y - 3, 7, 7);
            for (let i = 0; i < data.length; i += 4) if (data[i] < 120) seen[n] = { seconds: now, notBefore: looks[0] };
          }
          if (now !== null) looks = [looks[1], now];
          if (seen.filter((one) => one !== undefined).length === spots.length) resolve(seen);
          else requestAnimationFrame(look);
        });
      }),
    places,
  );
}
