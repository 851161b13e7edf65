import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { InkPoints } from '../ink/points';
import { sceneOf } from '../lesson/scene';
import { wideSquaredPage } from '../lesson/page';
import { newStroke } from '../lesson/piece';
import { change, marks, piece } from '../testing/arbitraries';
import { heardVoice } from '../testing/heard-voices';
import { FormatError } from './bytes';
import { decodeMarks, decodePieces, encodeMarks, encodePieces } from './marks-coding';
import { decodeHistory, encodeHistory, NO_HISTORY } from './history-coding';
import { decodePayload, encodePayload } from './payload';
import { decodeTakePart, encodeTakePart } from './take-part';

describe('the ink format', () => {
  it('reads back exactly what was written', () => {
    fc.assert(fc.property(marks, (some) => void expect(decodeMarks(encodeMarks(some))).toEqual(some)));
    fc.assert(fc.property(fc.array(piece), (some) => void expect(decodePieces(encodePieces(some))).toEqual(some)));
  });

  it('carries what can be undone and redone', () => {
    const steps = fc.array(fc.array(change, { minLength: 1, maxLength: 4 }), { maxLength: 6 });
    fc.assert(
      fc.property(steps, steps, (undo, redo) => {
        expect(decodeHistory(encodeHistory({ undo, redo }))).toEqual({ undo, redo });
      }),
    );
    expect(decodeHistory(new Uint8Array())).toEqual(NO_HISTORY);
  });

  it('still reads what the first version wrote', () => {
    const stroke = newStroke({
      id: 'piece-one' as never,
      z: 3,
      pen: { kind: 'pen', color: '#1f2a44', widthPt: 2.5 },
      points: InkPoints.from([
        { xPt: 10, yPt: 20, pressure: 1, sinceMs: 0 },
        { xPt: 12.5, yPt: 21, pressure: 0.2, sinceMs: 8 },
      ]),
    });
    const bytes = (hex: string) => Uint8Array.from(hex.match(/../g)!, (pair) => parseInt(pair, 16));
    expect(decodePieces(bytes('01010970696563652d6f6e650300001f2a4450028005800aff00fe03a00140ff109703'))).toEqual([
      stroke,
    ]);
    const marks = bytes(
      '010205000008706167652d6f6e6580f00180870102fffdf7d5e3e6800601c0070008706167652d6f6e65' +
        '0970696563652d6f6e650300001f2a4450028005800aff00fe03a00140ff109703',
    );
    expect(decodeMarks(marks)).toEqual([
      { kind: 'add-page', atSamples: 0, page: wideSquaredPage('page-one' as never), after: null },
      { kind: 'ink', atSamples: 480, page: 'page-one', stroke },
    ]);
  });

  it('carries a take part and a payload whole', () => {
    fc.assert(
      fc.property(marks, fc.uint8Array(), fc.nat(), heardVoice, (some, sound, toSamples, heard) => {
        const part = { marks: some, unfinished: some.slice(0, 1), toSamples, sound, heard };
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
    const pieces = Array.from({ length: 50 }, (_, n) =>
      newStroke({
        id: `piece-of-${n + 10}` as never,
        z: n + 1,
        pen: { kind: 'pen' as const, color: '#1f2a44', widthPt: 2.5 },
        points: InkPoints.from(samples.map((sample) => ({ ...sample, xPt: sample.xPt + n }))),
      }),
    );
    expect(encodePieces(pieces).length / (50 * 240)).toBeLessThanOrEqual(4);
  });
});
