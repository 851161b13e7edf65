import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TakeId } from '../lesson/ids';
import { seeded } from '../random/seeded';
import { CLOCK_HZ } from '../trail/clock';
import { joinSamples } from './join';
import { EnergyGatherer, integratedLoudness, loudnessRange } from './loudness';
import { AS_RECORDED, masteringOf, masterProgramme, type VoiceProfile } from './mastering';
import type { TakeSound } from './mix';
import { NoiseGatherer, noiseOf } from './noise';
import { PeakGatherer } from './peaks';
import { speechIn } from './speech';
import { TimeStretch } from './time-stretch';
import { PeakLimiter, truePeakDb } from './true-peak';

const db = (value: number) => 10 ** (value / 20);

/** A 1 kHz sine whose peak steps through levels: so many dBFS for so many seconds each. */
function steps(...levels: (readonly [dbfs: number, seconds: number])[]): Float32Array {
  return joinSamples(
    levels.map(([dbfs, seconds]) =>
      Float32Array.from(
        { length: seconds * CLOCK_HZ },
        (_, i) => db(dbfs) * Math.sin((2 * Math.PI * 1000 * i) / CLOCK_HZ),
      ),
    ),
  );
}

function energiesOf(samples: Float32Array): Float32Array<ArrayBuffer> {
  const gatherer = new EnergyGatherer();
  // In uneven blocks, as sound streams in.
  for (let at = 0; at < samples.length; at += 1237) gatherer.add(samples.subarray(at, at + 1237));
  return gatherer.take();
}

function peaksOf(samples: Float32Array): Uint8Array<ArrayBuffer> {
  const gatherer = new PeakGatherer();
  gatherer.add(samples);
  return gatherer.take();
}

/** Both channels of a stereo signal are alike, so their energies add up to twice one's. */
const inStereo = (samples: Float32Array) => energiesOf(samples).map((one) => 2 * one);

/** Syllables of a buzzing voice, three a second, with a pause after every third second. */
function babble(seconds: number, amplitude: number): Float32Array {
  return Float32Array.from({ length: seconds * CLOCK_HZ }, (_, i) => {
    const t = i / CLOCK_HZ;
    if (t % 4 >= 3) return 0;
    const buzz = Array.from({ length: 12 }, (_, n) => Math.sin(2 * Math.PI * 140 * (n + 1) * t) / (n + 1));
    return (
      amplitude * Math.max(0, Math.sin(2 * Math.PI * 1.5 * t) ** 2 - 0.1) * buzz.reduce((sum, one) => sum + one, 0)
    );
  });
}

const hiss = (seconds: number, amplitude: number) => {
  const random = seeded(11);
  return Float32Array.from({ length: seconds * CLOCK_HZ }, () => amplitude * (2 * random() - 1));
};
const added = (one: Float32Array, other: Float32Array) => one.map((sample, i) => sample + other[i]);
const power = (samples: Float32Array) => samples.reduce((sum, one) => sum + one * one, 0) / samples.length;

describe('loudness', () => {
  it.each([
    ['1', steps([-23, 20]), -23],
    ['2', steps([-33, 20]), -33],
    ['3', steps([-36, 10], [-23, 60], [-36, 10]), -23],
    ['4', steps([-72, 10], [-36, 10], [-23, 60], [-36, 10], [-72, 10]), -23],
    ['5', steps([-26, 20], [-20, 20.1], [-26, 20]), -23],
  ])('of test signal %s of EBU Tech 3341, table 1, is as it says, within 0.1 LU', (_, signal, lufs) => {
    expect(Math.abs(integratedLoudness(inStereo(signal)) - lufs)).toBeLessThanOrEqual(0.1);
  });

  it('of any sound is that of the same sound backwards', () => {
    const levels = fc.constantFrom(0, 1e-4, 0.03, 0.4, 1);
    const stretch = fc.record({ level: levels, wave: fc.array(fc.double({ min: -1, max: 1, noNaN: true })) });
    fc.assert(
      fc.property(fc.array(stretch), (stretches) => {
        const sound = Float32Array.from(stretches.flatMap(({ level, wave }) => wave.map((sample) => sample * level)));
        const [forwards, backwards] = [sound, sound.toReversed()].map(truePeakDb);
        // Sums in another order differ in their last digits.
        if (forwards === -Infinity) expect(backwards).toBe(-Infinity);
        else expect(backwards).toBeCloseTo(forwards, 9);
      }),
    );
  });

  it.each([
    ['1', steps([-20, 20], [-30, 20]), 10],
    ['2', steps([-20, 20], [-15, 20]), 5],
    ['3', steps([-40, 20], [-20, 20]), 20],
    ['4', steps([-50, 20], [-35, 20], [-20, 20], [-35, 20], [-50, 20]), 15],
  ])('has the range of test signal %s of EBU Tech 3342, table 1, within 1 LU', (_, signal, rangeLu) => {
    expect(Math.abs(loudnessRange(inStereo(signal)) - rangeLu)).toBeLessThanOrEqual(1);
  });

  it('of silence is none', () => {
    expect(integratedLoudness(energiesOf(new Float32Array(CLOCK_HZ)))).toBe(-Infinity);
    expect(loudnessRange([])).toBe(0);
  });
});

describe('true peak', () => {
  // EBU Tech 3341, table 1, signals 15 to 19: one in so many samples, phase in degrees, peak of the wave, dBTP.
  it.each([
    ['15', 4, 0, 0.5, -6],
    ['16', 4, 45, 0.5, -6],
    ['17', 6, 60, 0.5, -6],
    ['18', 8, 67.5, 0.5, -6],
    ['19', 4, 45, 1.41, 3],
  ])('of test signal %s of EBU Tech 3341 is as it says, within +0.2 and −0.4 dB', (_, every, degrees, peak, dbtp) => {
    const fade = (i: number) => Math.min(1, i / 2400, (CLOCK_HZ - i) / 2400);
    const sine = Float32Array.from(
      { length: CLOCK_HZ },
      (_, i) => peak * fade(i) * Math.sin((2 * Math.PI * i) / every + (degrees * Math.PI) / 180),
    );
    expect(truePeakDb(sine)).toBeLessThanOrEqual(dbtp + 0.2);
    expect(truePeakDb(sine)).toBeGreaterThanOrEqual(dbtp - 0.4);
  });

  it('of a single sample of full scale is that sample’s: the filter alone would read −0.25 dBTP', () => {
    for (const at of [0, 1, 5, 6, 7, 40]) {
      const impulse = new Float32Array(60);
      impulse[at] = -1;
      expect(truePeakDb(impulse)).toBeCloseTo(0, 2);
    }
  });

  it('is kept below the ceiling, and what is quieter stays as it is, only later', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1000 }), fc.double({ min: 0.1, max: 6, noNaN: true }), (seed, loudest) => {
        const random = seeded(seed);
        const noise = Float32Array.from(
          { length: 9000 },
          (_, i) => (i % 3000 < 600 ? loudest : 0.2) * (2 * random() - 1),
        );
        const limiter = new PeakLimiter(-1);
        const { delaySamples } = PeakLimiter;
        const cuts = [0, 1000, 1001, 4444, 9000];
        const parts = cuts.slice(1).map((end, i) => limiter.process(noise.subarray(cuts[i], end)));
        const out = joinSamples([...parts, limiter.process(new Float32Array(delaySamples))]).subarray(delaySamples);
        expect(truePeakDb(out)).toBeLessThanOrEqual(-0.9);
        expect(out.every((sample, i) => Math.abs(sample) <= Math.abs(noise[i]) + 1e-6)).toBe(true);
        if (loudest < 0.4) expect(out.every((sample, i) => sample === noise[i])).toBe(true);
      }),
      { numRuns: 30 },
    );
  });
});

describe('mastering', () => {
  const [quiet, loud] = ['quiet', 'loud'] as TakeId[];
  const sounds = new Map([
    [quiet, babble(30, 0.02)],
    [loud, babble(30, 0.5)],
  ]);
  const sound: TakeSound = {
    read: async (take, from, to) => {
      const out = new Float32Array(to - from);
      out.set(sounds.get(take)!.subarray(from, to));
      return out;
    },
  };
  const profiles = new Map(
    [...sounds].map(([take, samples]): [TakeId, VoiceProfile] => [
      take,
      { energies: energiesOf(samples), peaks: peaksOf(samples), noise: new Float32Array() },
    ]),
  );
  const programme = [...sounds.keys()].map((take) => ({
    kind: 'play' as const,
    take,
    fromSamples: CLOCK_HZ,
    toSamples: 27 * CLOCK_HZ,
    pace: 1,
  }));

  async function mastered(choice = { isEvened: true, isQuieted: false }): Promise<Float32Array> {
    const mastering = masteringOf(programme, choice, (take) => profiles.get(take));
    const blocks: Float32Array[] = [];
    for await (const block of masterProgramme(programme, sound, mastering)) blocks.push(block);
    return joinSamples(blocks);
  }

  it('brings quiet and loud takes to −16 LUFS, and true peaks below −1 dBTP, as ffmpeg measures them', async () => {
    const out = await mastered();
    expect(out).toHaveLength(52 * CLOCK_HZ);
    const halves = [out.subarray(0, 26 * CLOCK_HZ), out.subarray(26 * CLOCK_HZ)];
    for (const half of halves) expect(Math.abs(integratedLoudness(inStereo(half)) + 16)).toBeLessThan(0.7);
    const measured = ebur128(out);
    console.log(`mastered: ${measured.lufs} LUFS, ${measured.peakDb} dBTP (ffmpeg)`);
    expect(Math.abs(measured.lufs + 16)).toBeLessThanOrEqual(0.5);
    expect(measured.peakDb).toBeLessThanOrEqual(-1);
    expect(Math.abs(integratedLoudness(inStereo(out)) - measured.lufs)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(loudnessRange(energiesOf(out)) - measured.rangeLu)).toBeLessThanOrEqual(0.5);
    expect(Math.abs(truePeakDb(out) - measured.peakDb)).toBeLessThanOrEqual(0.3);
  });

  it('makes no voice louder by more than 30 dB', () => {
    const whisper = babble(20, 0.005);
    const only = { kind: 'play', take: quiet, fromSamples: 0, toSamples: 20 * CLOCK_HZ, pace: 1 } as const;
    const { gains } = masteringOf([only], { isEvened: true, isQuieted: false }, () => ({
      energies: energiesOf(whisper),
      peaks: peaksOf(whisper),
      noise: new Float32Array(),
    }));
    expect(20 * Math.log10(gains.get(quiet)!)).toBeCloseTo(30, 5);
  });

  it('leaves it as it was recorded where it is not wanted', async () => {
    const out = await mastered({ isEvened: false, isQuieted: false });
    const recorded: Float32Array[] = [];
    for await (const block of masterProgramme(programme, sound, AS_RECORDED)) recorded.push(block);
    expect(Buffer.compare(Buffer.from(out.buffer), Buffer.from(joinSamples(recorded).buffer))).toBe(0);
  });

  /** What ffmpeg's own meter says (libavfilter's ebur128). */
  function ebur128(samples: Float32Array): { lufs: number; rangeLu: number; peakDb: number } {
    const raw = join(mkdtempSync(join(tmpdir(), 'kite-trail-')), 'sound.raw');
    writeFileSync(raw, Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength));
    const input = ['-f', 'f32le', '-ar', String(CLOCK_HZ), '-ac', '1', '-i', raw];
    const { stderr } = spawnSync('ffmpeg', [...input, '-af', 'ebur128=peak=true:dualmono=true', '-f', 'null', '-'], {
      encoding: 'utf8',
    });
    const told = (name: RegExp) => Number(name.exec(stderr.slice(stderr.lastIndexOf('Summary')))![1]);
    return { lufs: told(/I:\s+(\S+)/), rangeLu: told(/LRA:\s+(\S+)/), peakDb: told(/Peak:\s+(\S+)/) };
  }
});

describe('steady noise', () => {
  it('is turned down by 12 dB and more in pauses, and the voice keeps its level', async () => {
    const voice = babble(24, 0.3);
    const noisy = added(voice, hiss(24, 0.02));
    const gatherer = new NoiseGatherer();
    gatherer.add(noisy);
    const noise = noiseOf(gatherer.take(speechIn(energiesOf(noisy))));
    const take = 'noisy' as TakeId;
    const programme = [{ kind: 'play' as const, take, fromSamples: 0, toSamples: noisy.length, pace: 1 }];
    const sound: TakeSound = {
      read: async (_, from, to) => {
        const out = new Float32Array(to - from);
        out.set(noisy.subarray(from, to));
        return out;
      },
    };
    const blocks: Float32Array[] = [];
    const mastering = { ...AS_RECORDED, noises: new Map([[take, noise]]) };
    for await (const block of masterProgramme(programme, sound, mastering)) blocks.push(block);
    const out = joinSamples(blocks);
    expect(out).toHaveLength(noisy.length);
    const during = (samples: Float32Array, from: number, to: number) =>
      samples.subarray(from * CLOCK_HZ, to * CLOCK_HZ);
    const downDb = 10 * Math.log10(power(during(noisy, 7.2, 7.9)) / power(during(out, 7.2, 7.9)));
    const voiceDb = 10 * Math.log10(power(during(out, 8.1, 10.9)) / power(during(voice, 8.1, 10.9)));
    console.log(`noise is ${downDb.toFixed(1)} dB lower, the voice changes by ${voiceDb.toFixed(2)} dB`);
    expect(downDb).toBeGreaterThan(12);
    expect(Math.abs(voiceDb)).toBeLessThan(1);
  });
});

describe('telling speech from silence', () => {
  const spokenShare = (samples: Float32Array, from: number, to: number) =>
    speechIn(energiesOf(samples)).reduce((sum, { fromSamples, toSamples }) => {
      return sum + Math.max(0, Math.min(to * CLOCK_HZ, toSamples) - Math.max(from * CLOCK_HZ, fromSamples));
    }, 0) /
    ((to - from) * CLOCK_HZ);

  it.each([
    ['quiet', 0.0001],
    ['noisy', 0.01],
  ])('finds the pauses in a %s room', (_, noise) => {
    const heard = added(babble(20, 0.3), hiss(20, noise));
    for (let from = 0; from < 20; from += 4) {
      expect(spokenShare(heard, from, from + 3)).toBeGreaterThan(0.9);
      expect(spokenShare(heard, from + 3.15, from + 3.95)).toBeLessThan(0.1);
    }
  });

  it('hears no speech in noise alone, nor in silence', () => {
    expect(speechIn(energiesOf(hiss(20, 0.05)))).toEqual([]);
    expect(speechIn(energiesOf(new Float32Array(5 * CLOCK_HZ)))).toEqual([]);
    expect(speechIn(new Float32Array())).toEqual([]);
  });
});

describe('playing faster and slower', () => {
  it.each([0.75, 1.25, 1.5, 2])('at %s times the speed lasts as long as it should, at the same pitch', (rate) => {
    const hz = 220;
    const tone = Float32Array.from(
      { length: 4 * CLOCK_HZ },
      (_, i) => 0.5 * Math.sin((2 * Math.PI * hz * i) / CLOCK_HZ),
    );
    const stretch = new TimeStretch(rate);
    const parts: Float32Array[] = [];
    for (let at = 0; at < tone.length; at += 5000) parts.push(stretch.process(tone.subarray(at, at + 5000)));
    const out = joinSamples([...parts, stretch.finish()]);
    expect(Math.abs(out.length - tone.length / rate)).toBeLessThan(0.08 * CLOCK_HZ);
    const steady = out.subarray(0.2 * CLOCK_HZ, out.length - 0.2 * CLOCK_HZ);
    let crossings = 0;
    for (let i = 1; i < steady.length; i++) if (steady[i - 1] < 0 && steady[i] >= 0) crossings++;
    expect(Math.abs((crossings * CLOCK_HZ) / steady.length - hz)).toBeLessThan(3);
    expect(10 * Math.log10(power(steady) / 0.125)).toBeCloseTo(0, 0);
  });
});
