import { levelOf } from '@kite-trail/core/sound/level';
import { seeded } from '@kite-trail/core/random/seeded';
import { beforeEach, describe, expect, it } from 'vitest';
import { VoiceWatch } from './voice-watch';

const BLOCK_MS = 20;
const SAMPLES = 960;
const random = seeded(4);

/** A block of noise of an amplitude, or of digital silence. */
const noise = (amplitude: number) =>
  levelOf(Float32Array.from({ length: SAMPLES }, () => (random() * 2 - 1) * amplitude));

let watch: VoiceWatch;
let nowMs: number;
beforeEach(() => {
  watch = new VoiceWatch();
  watch.begin((nowMs = 1000));
});

function hear(seconds: number, amplitudeAt: (second: number) => number) {
  for (let at = 0; at < seconds; at += BLOCK_MS / 1000) {
    nowMs += BLOCK_MS;
    watch.hear(noise(amplitudeAt(at)), nowMs);
  }
  return watch.found(nowMs);
}

/** Syllables four times a second over noise. */
const speech = (at: number) => (Math.floor(at * 8) % 2 === 0 ? 0.2 : 0.001);

describe('a microphone', () => {
  it('that brings a voice is not told of, also while its teacher writes in silence', () => {
    expect(hear(3, speech)).toBeNull();
    expect(hear(60, () => 0.001)).toBeNull();
    expect(watch.foundInAll(nowMs)).toBeNull();
  });

  it('that brings nothing but noise is told of after five seconds, until a voice is heard', () => {
    expect(hear(4.9, () => 0.002)).toBeNull();
    expect(hear(0.3, () => 0.002)).toBe('noise');
    expect(watch.foundInAll(nowMs)).toBe('noise');
    expect(hear(1, speech)).toBeNull();
    expect(watch.foundInAll(nowMs)).toBeNull();
  });

  it('that brings nothing at all for five seconds is told of, then and afterwards', () => {
    hear(2, speech);
    expect(hear(4.9, () => 0)).toBeNull();
    expect(hear(0.3, () => 0)).toBe('silence');
    expect(hear(1, speech)).toBeNull();
    expect(watch.foundInAll(nowMs)).toBe('silence');
  });

  it('that brings knocks between silences brings more than noise', () => {
    expect(hear(8, (at) => (at % 1 < 0.02 ? 0.5 : 0))).toBeNull();
  });

  it('is not told of for the time it was paused', () => {
    hear(2, speech);
    nowMs += 60_000;
    watch.goOn(nowMs);
    expect(hear(1, () => 0.001)).toBeNull();
  });
});
