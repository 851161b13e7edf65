import type { Page } from 'puppeteer-core';

/**
 * Notes what a page plays through its audio graph, and where in it the pen comes down: by the context's own clock as the
 * browser ties it to the page's (W3C Web Audio, `getOutputTimestamp`), beside the product.
 */
export async function noteHeardPens(page: Page): Promise<void> {
  await page.evaluateOnNewDocument(() => {
    const clicks: { context: BaseAudioContext; seconds: number }[] = [];
    const pens: { context: BaseAudioContext; seconds: number }[] = [];
    const heardPens = () =>
      pens.map(({ context, seconds }) =>
        clicks
          .filter((one) => one.context === context)
          .map((one) => seconds - one.seconds)
          .reduce((best, one) => (Math.abs(one) < Math.abs(best) ? one : best), Infinity),
      );
    Object.assign(window, { heardPens, forgetPens: () => (pens.length = 0) });
    let playing: AudioContext | null = null;
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (this: AudioBufferSourceNode, when = 0) {
      playing = this.context as AudioContext;
      const samples = this.buffer!.getChannelData(0);
      let quietSince = -48_000;
      for (let i = 0; i < samples.length; i++) {
        if (Math.abs(samples[i]) < 0.1) continue;
        if (i - quietSince > 4800) clicks.push({ context: this.context, seconds: when + i / 48_000 });
        quietSince = i;
      }
      start.call(this, when);
    };
    window.addEventListener(
      'pointerdown',
      ({ timeStamp }) => {
        if (!playing || playing.state === 'closed') return;
        const { contextTime = 0, performanceTime = 0 } = playing.getOutputTimestamp();
        pens.push({ context: playing, seconds: contextTime + (timeStamp - performanceTime) / 1000 });
      },
      true,
    );
  });
}

/** How far each touch of the pen was from the click that was heard nearest to it, in seconds. */
export const heardPens = (page: Page): Promise<number[]> =>
  page.evaluate(() => (window as unknown as { heardPens(): number[] }).heardPens());

export const forgetPens = (page: Page): Promise<void> =>
  page.evaluate(() => (window as unknown as { forgetPens(): void }).forgetPens());
