import { WAV_HZ, writeWav } from './wav';

/** A click is this long: short enough to have a sharp start, long enough for any codec to keep. */
const CLICK_SAMPLES = 480;

/** Writes a mono 16-bit WAV with a click at each of these times. */
export function writeClicks(file: string, lengthSeconds: number, clicksAtSeconds: readonly number[]): void {
  const samples = new Int16Array(lengthSeconds * WAV_HZ);
  for (const seconds of clicksAtSeconds) {
    const start = Math.round(seconds * WAV_HZ);
    for (let i = 0; i < CLICK_SAMPLES; i++) {
      samples[start + i] = 22_000 * Math.sin((2 * Math.PI * 2000 * i) / WAV_HZ) * Math.exp(-i / 160);
    }
  }
  writeWav(file, samples);
}

/** Where clicks begin in sound: where it first rises above a share of its loudest, after a stretch of quiet. */
export function findClicks(samples: Float32Array, hz: number): number[] {
  let loudest = 0;
  for (const sample of samples) loudest = Math.max(loudest, Math.abs(sample));
  const clicks: number[] = [];
  let quietSince = -hz;
  for (let i = 0; i < samples.length; i++) {
    if (Math.abs(samples[i]) < loudest * 0.25) continue;
    if (i - quietSince > hz * 0.2) clicks.push(i / hz);
    quietSince = i;
  }
  return clicks;
}
