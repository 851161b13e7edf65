import { describe, expect, it } from 'vitest';
import { Envelope, shiftBetween } from './clock-shift';

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

describe('the shift between two clocks, told by sound', () => {
  it.each([12.3, 47.8, 120.1])('is found within half a millisecond at different sample rates: %d ms', (delayMs) => {
    const sound = room(3);
    const first = envelopeOf(sound, 5000, 2, 44_100);
    const later = envelopeOf(sound, 5000, 2, 48_000, delayMs);
    expect(Math.abs(shiftBetween(first, later, 0)! - delayMs)).toBeLessThan(0.5);
  });

  it('is found between clocks that began long after each other', () => {
    const sound = room(3);
    const page = envelopeOf(sound, 600_000, 2, 48_000);
    const context = envelopeOf(sound, 1200, 2, 48_000, 31);
    expect(Math.abs(shiftBetween(page, context, -598_810)! - (31 - 598_800))).toBeLessThan(0.5);
  });

  it('is the new one a second and a quarter after it changed', () => {
    const sound = room(6);
    const first = envelopeOf(sound, 5000, 5, 48_000);
    const later = envelopeOf(sound, 5000, 3.7, 48_000, 20);
    for (let from = 3.7; from < 5; from += 0.01) {
      const samples = Float32Array.from({ length: 480 }, (_, i) => sound(from + i / 48_000));
      later.add(5000 + 53 + from * 1000, samples, 48_000);
    }
    expect(Math.abs(shiftBetween(first, later, 0)! - 53)).toBeLessThan(0.5);
  });

  it('is not claimed for silence, for different sounds, or for too little', () => {
    const silence = envelopeOf(() => 0, 0, 2, 48_000);
    expect(
      shiftBetween(
        silence,
        envelopeOf(() => 0, 0, 2, 48_000),
        0,
      ),
    ).toBeNull();
    const one = envelopeOf(room(3), 0, 2, 48_000);
    const other = envelopeOf((at) => Math.sin(at * at * 900) * Math.sin(at * 31), 0, 2, 48_000);
    expect(shiftBetween(one, other, 0)).toBeNull();
    expect(shiftBetween(envelopeOf(room(1), 0, 0.3, 48_000), one, 0)).toBeNull();
  });
});
