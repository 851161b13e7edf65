import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contrast, legibleInk } from './legible';

const color = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);

describe('ink on coloured paper', () => {
  it('has contrast as WCAG 2.2 defines it', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21);
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
    expect(contrast('#123456', '#123456')).toBe(1);
  });

  it('can always be read', () => {
    fc.assert(
      fc.property(color, color, (ink, paper) => {
        expect(contrast(legibleInk(ink, paper), paper)).toBeGreaterThanOrEqual(3);
      }),
    );
  });

  it('keeps its colour where that can be read', () => {
    expect(legibleInk('#1f2a44', '#fffdf7')).toBe('#1f2a44');
    expect(legibleInk('#1f2a44', '#15233b')).not.toBe('#1f2a44');
  });
});
