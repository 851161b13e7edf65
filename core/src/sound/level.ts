/** A block's loudness as a meter shows it, in dBFS: root mean square and highest sample. */
export interface Level {
  rmsDb: number;
  peakDb: number;
}

const FLOOR_DB = -90;

/** Measures one block of samples of −1 to 1. An empty or silent block reads −90 dBFS. */
export function levelOf(samples: Float32Array): Level {
  let sum = 0;
  let peak = 0;
  for (const sample of samples) {
    sum += sample * sample;
    peak = Math.max(peak, Math.abs(sample));
  }
  const rms = samples.length === 0 ? 0 : Math.sqrt(sum / samples.length);
  return { rmsDb: toDb(rms), peakDb: toDb(peak) };
}

const toDb = (amplitude: number) => Math.max(FLOOR_DB, 20 * Math.log10(amplitude));
