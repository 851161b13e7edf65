import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { litWords } from './lit-words';

const lit = (text: string, share: number) =>
  litWords(text, share)
    .filter(({ isLit }) => isLit)
    .map(({ word }) => word.trim());

describe('words that are spoken', () => {
  it('are lit one after the other, long ones for longer', () => {
    expect([0, 0.19, 0.3, 0.9].map((share) => lit('the lighthouse is', share))).toEqual([
      ['the'],
      ['the'],
      ['lighthouse'],
      ['is'],
    ]);
    expect(lit('שלום עולם', 0.7)).toEqual(['עולם']);
  });

  it('are all of the text, and one of them is lit at any time', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', minLength: 1 }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (text, share) => {
          const words = litWords(text, share);
          expect(words.map(({ word }) => word).join('')).toBe(text);
          expect(words.filter(({ isLit }) => isLit)).toHaveLength(1);
        },
      ),
    );
  });
});
