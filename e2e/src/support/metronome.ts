import type { Page } from 'puppeteer-core';

/** What the page's own ears and eyes note, beside the product, all on its performance.now() in ms. */
export interface Noted {
  /** When clicks came in at the microphone. */
  clicksMs: number[];
  /** When the pen touched the page. */
  pensDownMs: number[];
}

/**
 * Notes when clicks come in and when the pen goes down. Clicks are dated by the capture times the browser stamps on the
 * microphone's audio (W3C mediacapture-transform), by the test's own ears.
 */
export async function noteClicksAndPens(page: Page): Promise<void> {
  await page.evaluateOnNewDocument(() => {
    const noted: Noted = { clicksMs: [], pensDownMs: [] };
    Object.assign(window, { noted });
    window.addEventListener('pointerdown', (event) => noted.pensDownMs.push(event.timeStamp), true);
    const original = navigator.mediaDevices?.getUserMedia.bind(navigator.mediaDevices);
    if (!original) return;
    let ears: MediaStreamTrack | undefined;
    navigator.mediaDevices.getUserMedia = async (constraints) => {
      const stream = await original(constraints);
      const Processor = (window as unknown as { MediaStreamTrackProcessor: new (init: object) => object })
        .MediaStreamTrackProcessor;
      // Each microphone that is opened hears the clicks from their beginning: only the newest one counts.
      ears?.stop();
      ears = stream.getAudioTracks()[0].clone();
      const { readable } = new Processor({ track: ears }) as {
        readable: ReadableStream<AudioData>;
      };
      void listen(readable.getReader());
      return stream;
    };
    async function listen(reader: ReadableStreamDefaultReader<AudioData>) {
      for (;;) {
        const { value, done } = await reader.read();
        if (done) return;
        const samples = new Float32Array(value.numberOfFrames);
        value.copyTo(samples, { planeIndex: 0, format: 'f32-planar' });
        const at = samples.findIndex((sample) => Math.abs(sample) > 0.15);
        const startMs = value.timestamp / 1000;
        if (at >= 0 && startMs - (noted.clicksMs.at(-1) ?? -1000) > 200) {
          noted.clicksMs.push(startMs + (at / value.sampleRate) * 1000);
        }
        value.close();
      }
    }
  });
}

export const notedBy = (page: Page): Promise<Noted> =>
  page.evaluate(() => (window as unknown as { noted: Noted }).noted);

/** Waits until shortly before a moment of the page's clock, then exactly until it. */
export async function untilPageTime(page: Page, atMs: number): Promise<void> {
  await page.evaluate(async (until) => {
    const wait = until - performance.now() - 15;
    if (wait > 0) await new Promise((resolve) => setTimeout(resolve, wait));
    while (performance.now() < until - 1.5);
  }, atMs);
}
