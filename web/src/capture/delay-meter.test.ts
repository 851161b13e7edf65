import { describe, expect, it } from 'vitest';
import { Envelope, lagBetween } from './delay-meter';

/** A repeatable noise whose loudness wanders, as a quiet room's does. */
function room(seconds: number): (atSeconds: number) => number {
  const noise = Float32Array.from(
    { length: seconds * 48_000 },
    (_, i) => ((i * 48_271 + i * i * 7) % 2003) / 1001.5 - 1,
  );
  return (at) => noise[Math.max(0, Math.floor(at * 48_000))] * (0.5 + 0.5 * Math.sin(at * 61 + Math.sin(at * 17) * 4));
}

function envelopeOf(
  sound: (at: number) => number,
  startMs: number,
  seconds: number,
  hz: number,
  delayMs = 0,
): Envelope {
  const envelope = new Envelope();
  const block = Math.round(hz / 100);
  for (let from = 0; from < seconds * hz; from += block) {
    const samples = Float32Array.from({ length: block }, (_, i) => sound((from + i) / hz));
    envelope.add(startMs + delayMs + (from / hz) * 1000, samples, hz);
  }
  return envelope;
}

describe('the lag between two envelopes', () => {
  it.each([12.3, 47.8, 120.1])('is found within half a millisecond at different sample rates: %d ms', (delayMs) => {
    const sound = room(3);
    const first = envelopeOf(sound, 5000, 2, 44_100);
    const later = envelopeOf(sound, 5000, 2, 48_000, delayMs);
    expect(Math.abs(lagBetween(first, later)! - delayMs)).toBeLessThan(0.5);
  });

  it('is not claimed for silence, for different sounds, or for too little', () => {
    const silence = envelopeOf(() => 0, 0, 2, 48_000);
    expect(
      lagBetween(
        silence,
        envelopeOf(() => 0, 0, 2, 48_000),
      ),
    ).toBeNull();
    const one = envelopeOf(room(3), 0, 2, 48_000);
    const other = envelopeOf((at) => Math.sin(at * at * 900) * Math.sin(at * 31), 0, 2, 48_000);
    expect(lagBetween(one, other)).toBeNull();
    expect(lagBetween(envelopeOf(room(1), 0, 0.3, 48_000), one)).toBeNull();
  });
});
