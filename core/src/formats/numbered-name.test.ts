import fc from 'fast-check';
import { expect, it } from 'vitest';
import { numberedName } from './numbered-name';

it.each([
  ['Knots.mp4', 1, 'Knots.mp4'],
  ['Knots.mp4', 2, 'Knots 2.mp4'],
  ['Tide. 2026.tar.gz', 3, 'Tide. 2026.tar 3.gz'],
  ['Knots', 2, 'Knots 2'],
  ['two\nlines.pdf', 2, 'two\nlines 2.pdf'],
])('%j is, the %sth time, %j', (name, n, numbered) => expect(numberedName(name, n)).toBe(numbered));

it('is another name each time, whatever the file is called', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), (name) => {
      const names = [1, 2, 3, 10].map((n) => numberedName(name, n));
      expect(new Set(names).size).toBe(4);
    }),
  );
});
