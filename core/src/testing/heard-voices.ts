import fc from 'fast-check';
import { seeded } from '../random/seeded';
import { NOISE_BINS } from '../sound/noise';
import { NOTHING_HEARD, ProfileGatherer, type HeardVoice } from '../sound/profile';
import { CLOCK_HZ } from '../trail/clock';

/** A power as it is kept: in hundredths of a decibel above −150. */
const power = fc.integer({ min: 1, max: 15_000 }).map((steps) => 10 ** ((steps / 100 - 150) / 10));
const powers = (length: { minLength: number; maxLength: number }) =>
  fc.array(power, length).map((some) => Float32Array.from(some));

export const heardVoice: fc.Arbitrary<HeardVoice> = fc.oneof(
  fc.constant(NOTHING_HEARD),
  fc.record({
    peaks: fc.uint8Array({ minLength: 1 }),
    energies: powers({ minLength: 1, maxLength: 20 }),
    noise: fc.array(fc.record({ frames: fc.nat(), power: powers({ minLength: NOISE_BINS, maxLength: NOISE_BINS }) }), {
      maxLength: 2,
    }),
  }),
);

/** Noise that is loud for half of every two seconds. */
export function wavering(seconds: number): Float32Array {
  const random = seeded(5);
  return Float32Array.from({ length: seconds * CLOCK_HZ }, (_, i) => {
    return (i % (2 * CLOCK_HZ) < CLOCK_HZ ? 0.4 : 0.003) * (2 * random() - 1);
  });
}

/** Listens to a part of a sound, in blocks of an odd length. */
export function listenedTo(samples: Float32Array, fromSamples = 0, toSamples = Infinity): HeardVoice {
  const gatherer = new ProfileGatherer(fromSamples);
  const end = Math.min(samples.length, toSamples);
  for (let at = gatherer.beginSamples; at < end; at += 4801) {
    gatherer.add(samples.subarray(at, Math.min(end, at + 4801)));
  }
  return gatherer.finish();
}
