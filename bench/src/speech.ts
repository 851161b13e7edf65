import { EnergyGatherer, SAMPLES_PER_ENERGY } from '@kite-trail/core/sound/loudness';
import { speechIn } from '@kite-trail/core/sound/speech';
import { seeded } from '@kite-trail/core/random/seeded';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { narrationFile } from '@kite-trail/demo/narration/files';
import { decodeSound } from '@kite-trail/e2e/support/video';
import { rounded } from './figures';

/** How far the noise is below the voice, both as mean powers. */
const NOISES_DB = [40, 20, 10];
/** The narration is silent between its words, so what is louder than this was spoken. */
const SPOKEN = 10 ** (-50 / 20);
/** Shorter silences are part of speech. */
const SHORTEST_GAP = 20;

/** Tells speech from silence in the narration that ships, with steady noise and hum added, and counts the wrong 10 ms. */
export function benchSpeech(): Record<string, number> {
  const clean = decodeSound(narrationFile('tide-lesson'), CLOCK_HZ);
  const truth = spokenFrames(clean);
  let [wrong, all] = [0, 0];
  const figures: Record<string, number> = {};
  for (const noiseDb of NOISES_DB) {
    const found = framesOf(energiesOf(withNoise(clean, truth, noiseDb)), truth.length);
    const errors = truth.filter((isSpoken, i) => isSpoken !== found[i]).length;
    figures[`vad_error_${noiseDb}db_pct`] = rounded((100 * errors) / truth.length);
    wrong += errors;
    all += truth.length;
  }
  return { vad_error_pct: rounded((100 * wrong) / all), ...figures };
}

function spokenFrames(samples: Float32Array): boolean[] {
  const loud = Array.from({ length: Math.floor(samples.length / SAMPLES_PER_ENERGY) }, (_, n) =>
    samples.subarray(n * SAMPLES_PER_ENERGY, (n + 1) * SAMPLES_PER_ENERGY).some((one) => Math.abs(one) > SPOKEN),
  );
  let last = -Infinity;
  for (const [i, isLoud] of loud.entries()) {
    if (!isLoud) continue;
    if (i - last <= SHORTEST_GAP) loud.fill(true, last, i);
    last = i;
  }
  return loud;
}

/** White noise and a mains hum, each half of the power. */
function withNoise(samples: Float32Array, spoken: readonly boolean[], belowDb: number): Float32Array {
  const random = seeded(7);
  let power = 0;
  for (let i = 0; i < spoken.length * SAMPLES_PER_ENERGY; i++) {
    if (spoken[Math.floor(i / SAMPLES_PER_ENERGY)]) power += samples[i] ** 2;
  }
  const noise = Math.sqrt((power / (spoken.filter(Boolean).length * SAMPLES_PER_ENERGY)) * 10 ** (-belowDb / 10));
  const [white, hum] = [noise * Math.sqrt(0.5 * 3), noise];
  return samples.map((one, i) => one + white * (2 * random() - 1) + hum * Math.sin((2 * Math.PI * 50 * i) / CLOCK_HZ));
}

function energiesOf(samples: Float32Array): Float32Array {
  const gatherer = new EnergyGatherer();
  gatherer.add(samples);
  return gatherer.take();
}

function framesOf(energies: Float32Array, count: number): boolean[] {
  const found = new Array<boolean>(count).fill(false);
  for (const { fromSamples, toSamples } of speechIn(energies)) {
    found.fill(true, fromSamples / SAMPLES_PER_ENERGY, toSamples / SAMPLES_PER_ENERGY);
  }
  return found;
}
