import { execFileSync } from 'node:child_process';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { beforeAll, describe, expect, it } from 'vitest';
import { decodeSound, openSound, TakeSoundReader } from '@kite-trail/web/workers/sound/take-sound-reader';

const SECONDS = 12;
/** Two seconds in which a tone rises, over and over, as noise-free as a codec likes it. */
const SWEEP = `aevalsrc='0.4*sin(2*PI*(200+150*mod(t,2))*t)':s=${CLOCK_HZ}:d=${SECONDS}.013`;
const run = (input: Buffer | null, ...args: string[]) =>
  execFileSync('ffmpeg', ['-v', 'error', ...args], { input: input ?? undefined, maxBuffer: 2 ** 26 });

let url = '';
/** What ffmpeg's own decoder makes of it. */
let reference = new Float32Array();

beforeAll(() => {
  const ogg = run(null, '-f', 'lavfi', '-i', SWEEP, '-c:a', 'libopus', '-b:a', '64k', '-f', 'ogg', 'pipe:1');
  url = URL.createObjectURL(new Blob([new Uint8Array(ogg)]));
  const raw = run(ogg, '-i', 'pipe:0', '-f', 'f32le', '-ac', '1', '-ar', String(CLOCK_HZ), 'pipe:1');
  reference = new Float32Array(new Uint8Array(raw).buffer);
});

/** The greatest difference from the reference at samples from `atSamples` on. */
function apart(samples: Float32Array, atSamples: number): number {
  return samples.reduce((most, sample, i) => Math.max(most, Math.abs(sample - reference[atSamples + i])), 0);
}

describe('a take’s sound', () => {
  it('is decoded as ffmpeg decodes it, to the sample, from its beginning to its end', async () => {
    let next = 0;
    for await (const { atSamples, samples } of decodeSound((await openSound(url))!)) {
      expect(atSamples).toBe(next);
      expect(apart(samples, atSamples)).toBeLessThan(0.002);
      next += samples.length;
    }
    expect(next).toBe(reference.length);
  });

  it('is the same from the middle on, and silent behind its end', async () => {
    const take = 'sweep' as TakeId;
    const reader = new TakeSoundReader(new Map([[take, url]]));
    for (const from of [5 * CLOCK_HZ + 17, 2 * CLOCK_HZ, 11 * CLOCK_HZ]) {
      const samples = await reader.read(take, from, from + CLOCK_HZ / 2);
      expect(apart(samples, from)).toBeLessThan(0.002);
    }
    const behind = await reader.read(take, reference.length, reference.length + 100);
    expect(behind).toEqual(new Float32Array(100));
  });

  it('is not read on behind a packet that is damaged', async () => {
    const damaged = new Uint8Array(await (await fetch(url)).arrayBuffer());
    damaged.fill(255, damaged.length / 2, damaged.length / 2 + 400);
    const track = await openSound(URL.createObjectURL(new Blob([damaged])));
    await expect(async () => {
      for await (const { samples, atSamples } of decodeSound(track!)) {
        expect(atSamples + samples.length).toBeLessThan(reference.length);
      }
    }).rejects.toThrow('The sound of this recording is damaged.');
  });
});
