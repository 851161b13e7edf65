import type { Page } from 'puppeteer-core';

/**
 * Listens beside the product to the microphone's tone, in the audio context that the product opens next, and counts where
 * it comes in torn. A steady tone follows from its last two samples: x[n] = 2 cos(ω) x[n−1] − x[n−2].
 * @returns how often it was torn since the tone began
 */
export async function noteTears(page: Page, hz: number): Promise<() => Promise<number>> {
  await page.setBypassCSP(true);
  await page.reload();
  await page.evaluate((toneHz) => {
    const heard = { tears: 0 };
    Object.assign(window, { heard });
    const worklet = `registerProcessor('tears', class extends AudioWorkletProcessor {
      last = [0, 0];
      steady = 0;
      process([[samples = []]]) {
        const twice = 2 * Math.cos((2 * Math.PI * ${toneHz}) / sampleRate);
        let tears = 0;
        for (const sample of samples) {
          const isSteady = Math.abs(sample - twice * this.last[0] + this.last[1]) < 0.005;
          if (!isSteady && this.steady > sampleRate / 10) tears++;
          this.steady = isSteady ? this.steady + (sample === 0 ? 0 : 1) : 0;
          this.last = [sample, this.last[0]];
        }
        if (tears > 0) this.port.postMessage(tears);
        return true;
      }
    })`;
    const module = URL.createObjectURL(new Blob([worklet], { type: 'text/javascript' }));
    const original = AudioContext.prototype.createMediaStreamSource;
    AudioContext.prototype.createMediaStreamSource = function (this: AudioContext, stream: MediaStream) {
      const source = original.call(this, stream);
      void this.audioWorklet.addModule(module).then(() => {
        const ears = new AudioWorkletNode(this, 'tears');
        ears.port.onmessage = ({ data }) => (heard.tears += data as number);
        source.connect(ears).connect(this.destination);
      });
      return source;
    };
  }, hz);
  return () => page.evaluate(() => (window as unknown as { heard: { tears: number } }).heard.tears);
}
