import { describe, expect, it } from 'vitest';
import { takeIds } from '../testing/arbitraries';
import type { Programme } from '../trail/programme';
import { levelOf } from './level';
import { FADE_SAMPLES } from './fade';
import { mixProgramme, type TakeSound } from './mix';
import { PeakGatherer, SAMPLES_PER_PEAK } from './peaks';

const constant: TakeSound = {
  read: async (_take, from, to) => new Float32Array(to - from).fill(1),
};

async function mixed(programme: Programme): Promise<number[]> {
  const samples: number[] = [];
  for await (const block of mixProgramme(programme, constant)) samples.push(...block);
  return samples;
}

describe('mixing a programme', () => {
  it('is exactly as long as the programme and silent where the pace is not that of speech', async () => {
    const samples = await mixed([
      { kind: 'play', take: takeIds[0], fromSamples: 0, toSamples: 20_000, pace: 1 },
      { kind: 'play', take: takeIds[0], fromSamples: 20_000, toSamples: 40_000, pace: 4 },
      { kind: 'at-once', take: takeIds[0], fromSamples: 40_000, toSamples: 50_000 },
      { kind: 'play', take: takeIds[1], fromSamples: 5_000, toSamples: 25_000, pace: 1 },
    ]);
    expect(samples).toHaveLength(45_000);
    expect(samples.slice(20_000, 25_000).every((sample) => sample === 0)).toBe(true);
  });

  it('never steps at a splice: neighbouring samples differ by no more than the fade allows', async () => {
    const samples = await mixed([
      { kind: 'play', take: takeIds[0], fromSamples: 0, toSamples: 9_000, pace: 1 },
      { kind: 'play', take: takeIds[1], fromSamples: 3_000, toSamples: 12_000, pace: 1 },
    ]);
    const steepest = Math.PI / 2 / FADE_SAMPLES + 1e-6;
    for (let i = 1; i < samples.length; i++) {
      expect(Math.abs(samples[i] - samples[i - 1])).toBeLessThanOrEqual(steepest);
    }
    expect(samples[9_000]).toBeCloseTo(0);
  });

  it('leaves segments that go on from one another untouched', async () => {
    const samples = await mixed([
      { kind: 'play', take: takeIds[0], fromSamples: 0, toSamples: 9_000, pace: 1 },
      { kind: 'play', take: takeIds[0], fromSamples: 9_000, toSamples: 18_000, pace: 1 },
    ]);
    expect(samples.slice(8_000, 10_000).every((sample) => sample === 1)).toBe(true);
  });
});

describe('measuring sound', () => {
  it('reads a full-scale sine as 0 dBFS peak and −3.01 dBFS RMS (IEC 61606 terms: a sine has a crest factor of √2)', () => {
    const sine = Float32Array.from({ length: 48_000 }, (_, i) => Math.sin((2 * Math.PI * 1000 * i) / 48_000));
    const level = levelOf(sine);
    expect(level.peakDb).toBeCloseTo(0, 2);
    expect(level.rmsDb).toBeCloseTo(-3.01, 2);
    expect(levelOf(new Float32Array(0)).rmsDb).toBe(-90);
  });

  it('gathers the same peaks however the sound is cut into blocks', () => {
    const sound = Float32Array.from({ length: 5 * SAMPLES_PER_PEAK + 7 }, (_, i) => Math.sin(i * i) * 0.8);
    const whole = new PeakGatherer();
    whole.add(sound);
    const pieces = new PeakGatherer();
    for (let i = 0; i < sound.length; i += 100) pieces.add(sound.subarray(i, i + 100));
    const peaks = whole.take();
    expect(peaks).toEqual(pieces.take());
    expect(peaks).toHaveLength(6);
  });
});
