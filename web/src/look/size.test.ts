import { expect, it } from 'vitest';
import { sizeText } from './size';

it('tells sizes in the unit that suits them', () => {
  expect([0, 900, 1023.6, 1024, 1_600_000, 52_428_800, 3 * 2 ** 40].map(sizeText)).toEqual([
    '0 B',
    '900 B',
    '1 kB',
    '1 kB',
    '1.5 MB',
    '50 MB',
    '3 TB',
  ]);
});
