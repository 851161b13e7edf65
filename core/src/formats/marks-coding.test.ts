import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { InkPoints } from '../ink/points';
import { sceneOf } from '../lesson/scene';
import { wideSquaredPage } from '../lesson/page';
import { marks, stroke } from '../testing/arbitraries';
import { FormatError } from './bytes';
import { decodeMarks, decodePieces, encodeMarks, encodePieces } from './marks-coding';
import { decodePayload, encodePayload } from './payload';
import { decodeTakePart, encodeTakePart } from './take-part';

describe('the ink format', () => {
  it('reads back exactly what was written', () => {
    fc.assert(fc.property(marks, (some) => void expect(decodeMarks(encodeMarks(some))).toEqual(some)));
    fc.assert(fc.property(fc.array(stroke), (some) => void expect(decodePieces(encodePieces(some))).toEqual(some)));
  });

  it('carries a take part and a payload whole', () => {
    fc.assert(
      fc.property(marks, fc.uint8Array(), fc.nat(), (some, sound, toSamples) => {
        const part = { marks: some, unfinished: some.slice(0, 1), toSamples, sound };
        expect(decodeTakePart(encodeTakePart(part))).toEqual(part);
        const payload = {
          base: sceneOf([
            { page: wideSquaredPage('first-page' as never), pieces: [] },
            { page: wideSquaredPage('second-page' as never), pieces: [] },
          ]),
          trail: { lengthSamples: toSamples, marks: some },
        };
        expect(decodePayload(encodePayload(payload))).toEqual(payload);
      }),
    );
  });

  it('refuses damaged bytes with a message, and never crashes or hangs on them', () => {
    fc.assert(
      fc.property(marks, fc.nat(), fc.nat(255), (written, at, value) => {
        const bytes = encodeMarks(written);
        bytes[at % bytes.length] = value;
        try {
          decodeMarks(bytes);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
    );
    expect(() => decodeMarks(Uint8Array.of(99, 0))).toThrow(/newer version/);
    expect(() => decodeMarks(new Uint8Array())).toThrow(FormatError);
  });

  it('takes at most 4 bytes a point for writing sampled at 240 Hz', () => {
    const samples = Array.from({ length: 240 }, (_, i) => ({
      xPt: 100 + i * 0.9 + 6 * Math.sin(i / 9),
      yPt: 200 + 11 * Math.sin(i / 7),
      pressure: 0.5 + 0.3 * Math.sin(i / 31),
      sinceMs: (i * 1000) / 240,
    }));
    const pieces = Array.from({ length: 50 }, (_, n) => ({
      kind: 'stroke' as const,
      id: `piece-${n}` as never,
      z: n + 1,
      pen: { kind: 'pen' as const, color: '#1f2a44', widthPt: 2.5 },
      points: InkPoints.from(samples),
    }));
    expect(encodePieces(pieces).length / (50 * 240)).toBeLessThanOrEqual(4);
  });
});
