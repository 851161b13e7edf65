import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contrast, isDark, legibleInk } from './legible';

const color = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);

/** L*, a*, b* of a colour (CIE 15 by way of sRGB, IEC 61966-2-1; from memory). */
function labOf(color: string): number[] {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const part = parseInt(color.slice(at, at + 2), 16) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  });
  const [x, y, z] = [
    (0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505,
    0.2126 * r + 0.7152 * g + 0.0722 * b,
    (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089,
  ].map((part) => (part > 0.008856 ? Math.cbrt(part) : 7.787 * part + 16 / 116));
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

describe('ink on coloured paper', () => {
  it('has contrast as WCAG 2.2 defines it', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21);
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
    expect(contrast('#123456', '#123456')).toBe(1);
  });

  it('can always be read', () => {
    fc.assert(
      fc.property(color, color, (ink, paper) => {
        expect(contrast(legibleInk(ink, paper), paper)).toBeGreaterThanOrEqual(isDark(paper) ? 4.5 : 3);
      }),
    );
  });

  it.each(['#15233b', '#17352e', '#000000'])('keeps the pens’ colours apart on dark paper (%s)', (paper) => {
    const pens = ['#1f2a44', '#c23b1e', '#12776f', '#2459a8', '#7a3e8e', '#b86a00', '#e9b82e'];
    const seen = pens.map((pen) => labOf(legibleInk(pen, paper)));
    seen.forEach((one, i) =>
      seen.slice(i + 1).forEach((other) => {
        const apart = Math.hypot(...one.map((value, axis) => value - other[axis]));
        // From about 10 on, colours are told apart at a glance (common practice).
        expect(apart).toBeGreaterThan(14);
      }),
    );
  });

  it('keeps its colour where that can be read', () => {
    expect(legibleInk('#1f2a44', '#fffdf7')).toBe('#1f2a44');
    expect(legibleInk('#1f2a44', '#15233b')).not.toBe('#1f2a44');
  });
});
