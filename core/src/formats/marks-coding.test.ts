import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { InkPoints } from '../ink/points';
import { applyChange, sceneOf } from '../lesson/scene';
import { wideSquaredPage } from '../lesson/page';
import { newStroke, type Piece } from '../lesson/piece';
import { change, marks, piece } from '../testing/arbitraries';
import { heardVoice } from '../testing/heard-voices';
import { ByteReader, FormatError } from './bytes';
import { pieceCode } from './piece-coding';
import { decodeContents, decodeMarks, decodePieces, encodeContents, encodeMarks, encodePieces } from './marks-coding';
import { decodeHistory, encodeHistory, NO_HISTORY } from './history-coding';
import { decodePayload, encodePayload } from './payload';
import { decodeTakePart, encodeTakePart } from './take-part';

/** Pieces as bytes, with where each one's record lies. */
function encodedRecords(pieces: readonly Piece[]): { bytes: Uint8Array; records: [number, number][] } {
  const bytes = encodePieces(pieces);
  const from = new ByteReader(bytes);
  from.bytes(5);
  from.block();
  const records = Array.from({ length: from.count() }, (): [number, number] => {
    from.byte();
    const length = from.block().length;
    const to = bytes.length - from.left;
    return [to - length, to];
  });
  return { bytes, records };
}

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

  it('opens around what is damaged, keeps it, and never crashes or hangs', () => {
    fc.assert(
      fc.property(marks, fc.nat(), fc.nat(255), (written, at, value) => {
        const bytes = encodeMarks(written);
        bytes[at % bytes.length] = value;
        try {
          const read = decodeMarks(bytes);
          // What could not be read is written back, and read the same.
          expect(decodeMarks(encodeMarks(read))).toEqual(read);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
    );
    expect(() => decodeMarks(Uint8Array.of(99, 0))).toThrow(/newer version/);
    expect(() => decodeMarks(new Uint8Array())).toThrow(FormatError);
  });

  it('loses nothing but the record that cannot be read', () => {
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 6 }), fc.nat(), (some, n) => {
        const { bytes, records } = encodedRecords(some);
        const [from, to] = records[n % records.length];
        // A code that nothing has.
        bytes[from - 2 - (to - from > 127 ? 1 : 0)] = 200;
        const read = decodeContents(bytes);
        expect(read.pieces).toEqual(some.filter((_, i) => i !== n % records.length));
        expect(read.unread).toHaveLength(1);
        expect([...read.unread[0].bytes]).toEqual([...bytes.slice(from, to)]);
        // Written back among others, it is the same still; and where somebody knows what it is, it is read.
        const again = decodeContents(encodeContents(read));
        expect(again).toEqual(read);
        const known = { ...again.unread[0], code: pieceCode(some[n % records.length]) };
        expect(decodeContents(encodeContents({ pieces: [], unread: [known] })).pieces).toEqual([
          some[n % records.length],
        ]);
      }),
    );
  });

  it('keeps all there was of an unknown kind of mark, pen, paper and pointer, and reads none as another', () => {
    const ink = newStroke({
      id: 'piece-one' as never,
      z: 1,
      pen: { kind: 'quill' as never, color: '#1f2a44', widthPt: 2 },
      points: InkPoints.from([{ xPt: 1, yPt: 2, pressure: 1, sinceMs: 0 }]),
    });
    expect(() => encodePieces([ink])).toThrow(RangeError);
    const written = encodeMarks([
      { kind: 'turn', page: 'page-one' as never, atSamples: 0 },
      { kind: 'turn', page: 'page-one' as never, atSamples: 480 },
    ]);
    // The last mark's code, before its length and its page's number.
    written[written.length - 3] = 77;
    const read = decodeMarks(written);
    expect(read[1]).toMatchObject({ kind: 'unread', atSamples: 480, raw: { version: 4, code: 77 } });
    const back = encodeMarks([...read, { kind: 'turn', page: 'page-three' as never, atSamples: 960 }]);
    expect(decodeMarks(back)[1]).toEqual(read[1]);
    const scene = sceneOf([{ page: wideSquaredPage('page-one' as never), pieces: [] }]);
    expect(applyChange(scene, read[1])).toBe(scene);
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
