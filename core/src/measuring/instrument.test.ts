import { describe, expect, it } from 'vitest';
import { angleText, edgesOf, FIRST_SIZE, lengthText, onEdge, PT_PER_CM, readingOf } from './instrument';

const CM = { perCm: 1, unit: 'cm' };
const frame = (turnRad = 0) => ({ xPt: 400, yPt: 300, ...FIRST_SIZE.ruler, turnRad, mirrored: false });
const ruler = { instrument: 'ruler' as const, scale: CM };

describe('measuring', () => {
  it('knows how long a centimetre is, and reads in the scale of the page', () => {
    // An inch is 25.4 mm exactly, and 72 points (ISO 32000-1, 8.3.2.3).
    expect(PT_PER_CM * 2.54).toBeCloseTo(72, 10);
    expect(lengthText(PT_PER_CM * 7.5, CM)).toBe('7.50 cm');
    expect(lengthText(PT_PER_CM * 7.5, { perCm: 2, unit: 'km' })).toBe('15.0 km');
  });

  it('tells angles anticlockwise, in halves of a degree', () => {
    expect(angleText(0)).toBe('0°');
    expect(angleText(-Math.PI / 6)).toBe('30°');
    expect(angleText(Math.PI / 2)).toBe('270°');
    const compasses = { instrument: 'compasses' as const, scale: CM };
    expect(readingOf(compasses, { ...frame(), widthPt: 4 * PT_PER_CM })).toBe('r 4.00 cm');
    expect(edgesOf(compasses, frame())).toHaveLength(1);
  });

  it('leads a pen along the nearest edge of a turned ruler, and lets one go that is far from it', () => {
    const turn = Math.PI / 5;
    const lower = { xPt: 400 - Math.sin(turn) * 34, yPt: 300 + Math.cos(turn) * 34 };
    const led = onEdge(ruler, frame(turn), lower, 20)!;
    // The edge lies half the ruler's width from its middle.
    const off = -(led.xPt - 400) * Math.sin(turn) + (led.yPt - 300) * Math.cos(turn);
    expect(off).toBeCloseTo(FIRST_SIZE.ruler.heightPt / 2, 6);
    expect(onEdge(ruler, frame(turn), { xPt: 100, yPt: 20 }, 20)).toBeNull();
    expect(onEdge(ruler, frame(turn), lower, 20, 0)).toBeNull();
  });
});
