import type { Page } from 'puppeteer-core';

/** Lets tests see the sounds that a page plays. */
export async function noteSounds(page: Page): Promise<void> {
  await page.evaluateOnNewDocument(() => {
    const sounds: HTMLAudioElement[] = [];
    Object.assign(window, { sounds });
    const Original = window.Audio;
    window.Audio = class extends Original {
      constructor(source?: string) {
        super(source);
        sounds.push(this);
      }
    };
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
        const { sounds } = window as unknown as { sounds: HTMLAudioElement[] };
        const seen: Appearance[] = [];
        let looks: number[] = [0, 0];
        requestAnimationFrame(function look() {
          const sound = sounds.findLast((one) => !one.paused);
          for (let n = 0; n < spots.length && sound; n++) {
            if (seen[n] !== undefined) continue;
            const [x, y] = [Math.round(spots[n][0] * canvas.width), Math.round(spots[n][1] * canvas.height)];
            const { data } = surface.getImageData(x - 3, y - 3, 7, 7);
            for (let i = 0; i < data.length; i += 4)
              if (data[i] < 120) seen[n] = { seconds: sound.currentTime, notBefore: looks[0] };
          }
          if (sound) looks = [looks[1], sound.currentTime];
          if (seen.filter((one) => one !== undefined).length === spots.length) resolve(seen);
          else requestAnimationFrame(look);
        });
      }),
    places,
  );
}
