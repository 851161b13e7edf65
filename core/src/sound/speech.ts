import type { Stretch } from '../trail/edit';
import { SAMPLES_PER_ENERGY } from './loudness';

/** All in units of 10 ms. */
const SMOOTHED = 3;
const FLOOR_EVERY = 50;
const FLOOR_REACH = 400;
const SHORTEST_SPEECH = 7;
const SHORTEST_GAP = 20;
const BEFORE = 3;
const AFTER = 6;

/** Nobody speaks below this, whatever the noise. Common practice. */
const SILENCE_DB = -58;
/** How far above the noise speech begins: so much of the way to the voice, within bounds. */
const PART_OF_WAY = 0.28;
const [LEAST_ABOVE_DB, MOST_ABOVE_DB] = [5, 12];
/** Once begun, it goes on a little below that. */
const HYSTERESIS_DB = 2;
/** Where the loudest is hardly louder than the noise, there is noise alone. */
const VOICE_ABOVE_NOISE_DB = 7;

/**
 * Where somebody speaks: an adaptive energy method. The noise floor and the voice's level are the 10th and 95th percentile
 * of the K-weighted level within four seconds on either side; speech is what rises above the floor by a part of the way
 * between the two, with hysteresis, and reaches a little beyond, where consonants fade in and out.
 * @param energies K-weighted mean squares of every 10 ms
 * @returns stretches of samples, in order and apart
 */
export function speechIn(energies: Float32Array): Stretch[] {
  const levels = smoothedLevels(energies);
  const thresholds = thresholdsOf(levels);
  const spoken: { from: number; to: number }[] = [];
  let from = -1;
  for (let i = 0; i <= levels.length; i++) {
    const threshold = thresholds[Math.min(thresholds.length - 1, Math.floor(i / FLOOR_EVERY))];
    const isSpoken = i < levels.length && levels[i] > threshold - (from >= 0 ? HYSTERESIS_DB : 0);
    if (isSpoken && from < 0) from = i;
    if (isSpoken || from < 0) continue;
    if (i - from >= SHORTEST_SPEECH) {
      const reached = { from: Math.max(0, from - BEFORE), to: Math.min(levels.length, i + AFTER) };
      const last = spoken.at(-1);
      if (last && reached.from - last.to < SHORTEST_GAP) last.to = reached.to;
      else spoken.push(reached);
    }
    from = -1;
  }
  return spoken.map((one) => ({
    fromSamples: one.from * SAMPLES_PER_ENERGY,
    toSamples: one.to * SAMPLES_PER_ENERGY,
  }));
}

function smoothedLevels(energies: Float32Array): Float32Array {
  const levels = new Float32Array(energies.length);
  const half = (SMOOTHED - 1) / 2;
  for (let i = 0; i < energies.length; i++) {
    let sum = 0;
    for (let k = -half; k <= half; k++) sum += energies[Math.min(energies.length - 1, Math.max(0, i + k))];
    levels[i] = 10 * Math.log10(sum / SMOOTHED + 1e-12);
  }
  return levels;
}

/** The level above which somebody speaks, for every half second. */
function thresholdsOf(levels: Float32Array): number[] {
  return Array.from({ length: Math.max(1, Math.ceil(levels.length / FLOOR_EVERY)) }, (_, n) => {
    const middle = n * FLOOR_EVERY;
    const around = levels.slice(Math.max(0, middle - FLOOR_REACH), middle + FLOOR_EVERY + FLOOR_REACH).sort();
    if (around.length === 0) return Infinity;
    const at = (part: number) => around[Math.floor(part * (around.length - 1))];
    const [floor, voice] = [at(0.1), at(0.95)];
    if (voice - floor < VOICE_ABOVE_NOISE_DB) return Infinity;
    const above = Math.min(MOST_ABOVE_DB, Math.max(LEAST_ABOVE_DB, (voice - floor) * PART_OF_WAY));
    return Math.max(SILENCE_DB, floor + above);
  });
}
