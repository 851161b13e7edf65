import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeHistory, encodeHistory } from '../formats/history-coding';
import { decodeMarks, encodeMarks } from '../formats/marks-coding';
import { InkPoints } from '../ink/points';
import { dividedText, MOST_LETTERS } from '../lesson/content';
import type { PageId, PieceId } from '../lesson/ids';
import type { Change } from '../lesson/mark';
import { movedPiece } from '../lesson/moving';
import { NEW } from '../lesson/piece';
import { applyChange, inverseOf } from '../lesson/scene';
import { base, composedPiece, matrix, stroke } from '../testing/arbitraries';
import { anyChange } from '../testing/beyond-limits';
import { changeProblem } from './change';

describe('what can be made', () => {
  it('is written and read back the same, and all else has a message', () => {
    let [made, refused] = [0, 0];
    fc.assert(
      fc.property(anyChange, (change) => {
        const problem = changeProblem(change);
        if (problem !== null) {
          refused++;
          return void expect(problem).toMatch(/^[A-Z].*\.$/);
        }
        made++;
        expect(decodeMarks(encodeMarks([{ ...change, atSamples: 480 }]))).toEqual([{ ...change, atSamples: 480 }]);
        const history = { undo: [[change]], redo: [] };
        expect(decodeHistory(encodeHistory(history))).toEqual(history);
      }),
      { numRuns: 1000 },
    );
    // Neither is so rare that nothing is said about it.
    expect(Math.min(made, refused)).toBeGreaterThan(100);
  });

  it('can be taken back by what can be made', () => {
    fc.assert(
      fc.property(fc.array(anyChange, { maxLength: 12 }), anyChange, (before, change) => {
        const scene = before.filter((one) => changeProblem(one) === null).reduce(applyChange, base);
        fc.pre(changeProblem(change) === null);
        for (const one of inverseOf(scene, change)) expect(changeProblem(one)).toBeNull();
      }),
    );
  });

  it('may be moved, turned and scaled as far as numbers go, or is refused', () => {
    fc.assert(
      fc.property(fc.oneof(stroke, composedPiece), fc.array(matrix, { maxLength: 40 }), (piece, moves) => {
        let moved = piece;
        for (const by of moves) {
          const next = movedPiece(moved, by);
          const change: Change = { kind: 'alter', page: base.shown, pieces: [next] };
          if (changeProblem(change) !== null) return;
          moved = next;
          const [read] = decodeMarks(encodeMarks([{ ...change, atSamples: 0 }]));
          expect(read).toEqual({ ...change, atSamples: 0 });
        }
      }),
    );
  });

  it('is refused with what to do about it', () => {
    const text = (letters: number): Change => ({
      kind: 'place',
      page: 'page-of-text' as PageId,
      pieces: [
        {
          ...NEW,
          kind: 'text',
          id: 'text' as PieceId,
          z: 1,
          frame: { xPt: 0, yPt: 0, widthPt: 10, heightPt: 10, turnRad: 0, mirrored: false },
          content: {
            text: 'a'.repeat(letters),
            style: { font: 'clear', sizePt: 20, bold: false, color: '#1f2a44', align: 'left' },
            wrapPt: null,
          },
          drawing: { widthPt: 0, heightPt: 0, letters: [], lines: [] },
        },
      ],
    });
    expect(changeProblem(text(MOST_LETTERS))).toBeNull();
    expect(changeProblem(text(MOST_LETTERS + 1))).toMatch(/at most 4,000 letters.*another text/);
  });
});

describe('what a pen sends', () => {
  it('is brought within what can be kept, whatever it is', () => {
    const any = fc.double();
    const samples = fc.array(fc.record({ xPt: any, yPt: any, pressure: any, sinceMs: any }), { minLength: 1 });
    fc.assert(
      fc.property(samples, stroke, (sent, one) => {
        const change: Change = { kind: 'ink', page: base.shown, stroke: { ...one, points: InkPoints.from(sent) } };
        expect(changeProblem(change)).toBeNull();
        expect(decodeMarks(encodeMarks([{ ...change, atSamples: 0 }]))).toEqual([{ ...change, atSamples: 0 }]);
      }),
    );
  });
});

describe('a text that is too long', () => {
  it('is divided, without a letter lost or a pair of code units cut through', () => {
    const long = fc.array(fc.constantFrom('tide', ' ', '\n', '🪁', 'harbour'), { maxLength: 80 });
    fc.assert(
      fc.property(long, fc.integer({ min: 8, max: 40 }), (words, most) => {
        const text = words.join('');
        const parts = dividedText(text, most);
        expect(parts.join('')).toBe(text);
        expect(parts.every((part) => part.length <= most)).toBe(true);
        expect(parts.join('|')).not.toMatch(/[\uD800-\uDBFF]\|/);
      }),
    );
  });
});
