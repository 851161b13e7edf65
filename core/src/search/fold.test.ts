import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { excerptOf, findWords, folded, wordsOf } from './fold';

const at = (text: string, asked: string) => findWords(text, wordsOf(asked)).map(({ from, to }) => text.slice(from, to));

describe('a text that is searched', () => {
  it('is without case and marks, also where they are letters of their own', () => {
    // Unicode Standard Annex #15, table 4: é is e and a mark.
    expect(folded('Résumé')).toBe('resume');
    expect(folded('ÅNGSTRÖM')).toBe('angstrom');
    expect(folded('Straße')).toBe('strasse');
    expect(folded('ﬁn')).toBe('fin');
    expect(folded('  Ebb \n tide ')).toBe('ebb tide');
  });

  it('has the words where they were written, in any script', () => {
    expect(at('The Résumé of tides', 'resume TIDE')).toEqual(['Résumé', 'tide']);
    expect(at('שלום עולם', 'עולם')).toEqual(['עולם']);
    expect(at('潮汐の計算', '汐')).toEqual(['汐']);
    // A sigma that ends a word is the same letter (Unicode Standard, chapter 3.13).
    expect(at('ΟΔΟΣ, οδοστρωμα', 'οδος')).toEqual(['ΟΔΟΣ', 'οδοσ']);
    expect(at('e\u0301be', 'ebe')).toEqual(['e\u0301be']);
    expect(at('⛵ set sail', 'set')).toEqual(['set']);
    // One letter is found whole by a part of what it stands for.
    expect(at('12 ㎞', 'm')).toEqual(['㎞']);
  });

  it('is shown around the first of the words', () => {
    const long = `${'mud '.repeat(100)}the bar dries ${'sand '.repeat(100)}`;
    const text = excerptOf(long, ['bar']);
    expect(text.length).toBeLessThan(160);
    expect(at(text, 'bar')).toEqual(['bar']);
    expect(text).toMatch(/^… .* …$/);
  });

  it('says of any text and words where they are, in order', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), fc.string({ unit: 'grapheme' }), (text, asked) => {
        const found = findWords(text, wordsOf(asked));
        let last = -1;
        for (const { from, to } of found) {
          expect(from).toBeGreaterThan(last);
          expect(to).toBeGreaterThan(from);
          expect(to).toBeLessThanOrEqual(text.length);
          last = to;
        }
        const excerpt = excerptOf(text, wordsOf(asked));
        expect(findWords(excerpt, wordsOf(asked)).length > 0).toBe(found.length > 0);
      }),
    );
  });

  it('is found by every word of its own', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ minLength: 1, maxLength: 12, unit: 'grapheme-composite' }), {
          minLength: 1,
          maxLength: 8,
        }),
        (some) => {
          const text = some.join(' ');
          for (const word of wordsOf(text)) expect(folded(text)).toContain(word);
        },
      ),
    );
  });
});
