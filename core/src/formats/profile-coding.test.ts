import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NOISE_BINS } from '../sound/noise';
import { profileOf } from '../sound/profile';
import { heardVoice, listenedTo, wavering } from '../testing/heard-voices';
import { ByteWriter, FormatError } from './bytes';
import { decodeHeard, encodeHeard } from './profile-coding';

const apartDb = (one: number, other: number) => Math.abs(10 * Math.log10(one / other));

describe('what was heard of a voice', () => {
  const heard = listenedTo(wavering(68));

  it('reads back as it was written, to a hundredth of a decibel', () => {
    const read = decodeHeard(encodeHeard(heard));
    expect(read.peaks).toEqual(heard.peaks);
    expect(profileOf(read).speech).toEqual(profileOf(heard).speech);
    expect(profileOf(read).speech).toHaveLength(34);
    expect(read.energies).toHaveLength(heard.energies.length);
    read.energies.forEach((one, i) => expect(apartDb(one, heard.energies[i])).toBeLessThan(0.006));
    expect(read.noise.map(({ frames }) => frames)).toEqual(heard.noise.map(({ frames }) => frames));
    read.noise.forEach(({ power }, n) =>
      power.forEach((one, bin) => expect(apartDb(one, heard.noise[n].power[bin])).toBeLessThan(0.006)),
    );
  });

  it('reads back exactly what was read before', () => {
    fc.assert(fc.property(heardVoice, (some) => void expect(decodeHeard(encodeHeard(some))).toEqual(some)));
  });

  it('is refused where it is damaged', () => {
    const bytes = encodeHeard(heard);
    expect(() => decodeHeard(bytes.subarray(0, 100))).toThrow(FormatError);
    expect(() => decodeHeard(Uint8Array.of(9))).toThrow(FormatError);
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (any) => {
        try {
          decodeHeard(any);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
    );
  });

  it('still reads what the first version wrote: the noise of all in one', () => {
    const ofFirst = (noise: Uint32Array) => {
      const out = new ByteWriter();
      out.unsigned(1);
      out.block(Uint8Array.of(7, 255));
      out.block(new Uint8Array(Uint16Array.of(15_000).buffer));
      out.block(new Uint8Array(noise.buffer));
      return decodeHeard(out.finish());
    };
    const { peaks, energies, noise } = ofFirst(new Uint32Array(NOISE_BINS).fill(13_000));
    expect([...peaks]).toEqual([7, 255]);
    expect([...energies]).toEqual([1]);
    expect(profileOf({ peaks, energies, noise }).noise[9]).toBeCloseTo(0.01);
    expect(ofFirst(new Uint32Array()).noise).toEqual([]);
  });
});
