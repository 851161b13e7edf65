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

/** Writes a minute with a click each second, the first after half of one. */
export const writeSecondClicks = (file: string): void =>
  writeClicks(
    file,
    60,
    Array.from({ length: 59 }, (_, i) => i + 0.5),
  );

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

export const nearest = (times: readonly number[], to: number): number =>
  times.reduce((best, one) => (Math.abs(one - to) < Math.abs(best - to) ? one : best));

/** Where clicks are this uneven, the machine itself stalled, and nothing can be told from them. */
const UNEVEN_SECONDS = 0.002;

/** Whether the clicks around a moment, and the two before, lie a second apart: the take's clock is told from the last one. */
export function areEvenAround(clicks: readonly number[], atSeconds: number): boolean {
  const at = clicks.indexOf(nearest(clicks, atSeconds));
  const gaps = [at - 2, at - 1, at].flatMap((i) =>
    clicks[i] === undefined || clicks[i + 1] === undefined ? [] : clicks[i + 1] - clicks[i] - 1 || 0,
  );
  return gaps.every((gap) => Math.abs(gap) < UNEVEN_SECONDS);
}

/** Bursts of a tone are heard as speech; each begins as sharply as a click. */
const BURST_SECONDS = 0.2;

/** Writes a mono 16-bit WAV with a burst of a tone at each of these times, and silence between. */
export function writeBursts(file: string, lengthSeconds: number, burstsAtSeconds: readonly number[]): void {
  const samples = new Int16Array(lengthSeconds * WAV_HZ);
  for (const seconds of burstsAtSeconds) {
    const start = Math.round(seconds * WAV_HZ);
    for (let i = 0; i < BURST_SECONDS * WAV_HZ; i++) {
      samples[start + i] = 12_000 * Math.sin((2 * Math.PI * 700 * i) / WAV_HZ) * Math.exp(-i / 9600);
    }
  }
  writeWav(file, samples);
}
