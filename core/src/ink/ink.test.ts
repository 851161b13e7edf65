import { feltPressure, tiltedPressure } from './pressure';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { points, stroke } from '../testing/arbitraries';
import { strokeBounds } from './bounds';
import { IDENTITY, movedTo } from '../lesson/matrix';
import { strokesTouched, segmentDistance } from './hit';
import { strokeOutline } from './outline';
import { inkEdge } from './trace';
import { SpeedPressure } from './speed-pressure';

describe('ink points', () => {
  it('count up to a time, as a plain scan does', () => {
    fc.assert(
      fc.property(points, fc.nat(800), (ink, at) => {
        const plain = ink.sinceMs.filter((since) => since <= at).length;
        expect(ink.countBy(at)).toBe(Math.max(1, plain));
      }),
    );
  });

  it('never run backwards in time', () => {
    fc.assert(
      fc.property(points, (ink) => {
        ink.sinceMs.forEach((since, i) => i > 0 && expect(since).toBeGreaterThanOrEqual(ink.sinceMs[i - 1]));
      }),
    );
  });
});

describe('a stroke', () => {
  it('has one outline whatever its colour and its times, and another with another tip', () => {
    fc.assert(
      fc.property(stroke, (one) => {
        const outline = strokeOutline(one);
        const atOnce = { ...one, pen: { ...one.pen, color: '#123456' }, points: one.points.retimed(() => 0) };
        expect(strokeOutline(atOnce)).toBe(outline);
        const broad = { ...one, pen: { ...one.pen, widthPt: one.pen.widthPt + 1 } };
        expect(strokeOutline(broad)).not.toBe(outline);
        expect(strokeOutline(one)).toBe(outline);
      }),
    );
  });

  it('lies within its bounds', () => {
    fc.assert(
      fc.property(stroke, (one) => {
        const bounds = strokeBounds(one);
        const outline = strokeOutline(one);
        for (let i = 0; i < outline.length; i += 2) {
          const { xPt, yPt } = movedTo(one.matrix ?? IDENTITY, { xPt: outline[i], yPt: outline[i + 1] });
          expect(xPt).toBeGreaterThanOrEqual(bounds.left);
          expect(xPt).toBeLessThanOrEqual(bounds.right);
          expect(yPt).toBeGreaterThanOrEqual(bounds.top);
          expect(yPt).toBeLessThanOrEqual(bounds.bottom);
        }
      }),
    );
  });

  it('is touched by an eraser anywhere on its edge, and not by one far away', () => {
    fc.assert(
      fc.property(stroke, fc.nat(), (one, n) => {
        const edge = inkEdge(one);
        const i = 2 * (n % (edge.length / 2));
        const at = movedTo(one.matrix ?? IDENTITY, { xPt: edge[i], yPt: edge[i + 1] });
        expect(strokesTouched([one], at, at, 0.01)).toEqual([one]);
        const away = { xPt: 50_000, yPt: 50_000 };
        expect(strokesTouched([one], away, away, 2)).toEqual([]);
      }),
    );
  });

  it('is touched by a fast eraser that crosses it between two samples', () => {
    expect(segmentDistance(0, 0, 10, 0, 5, -50, 5, 50)).toBe(0);
    expect(segmentDistance(0, 0, 10, 0, 0, 3, 10, 3)).toBe(3);
    expect(segmentDistance(0, 0, 0, 0, 3, 4, 3, 4)).toBe(5);
  });
});

describe('the pressure a hand feels', () => {
  it('is the device’s in the middle, broader when soft, finer when hard, and never turns back', () => {
    expect(feltPressure(0.25, 0.5)).toBe(0.25);
    expect(feltPressure(0.25, 0)).toBe(0.5);
    expect(feltPressure(0.25, 1)).toBe(0.0625);
    for (const hardness of [0, 0.3, 0.5, 0.8, 1]) {
      const curve = Array.from({ length: 21 }, (_, i) => feltPressure(i / 20, hardness));
      expect([curve[0], curve[20]]).toEqual([0, 1]);
      expect(curve).toEqual([...curve].sort((a, b) => a - b));
    }
  });

  it('is more for a pencil on its side', () => {
    expect(tiltedPressure(0.4, 0, 0)).toBe(0.4);
    expect(tiltedPressure(0.4, 60, 0)).toBeCloseTo(0.9);
    expect(tiltedPressure(0.4, 20, 10)).toBeLessThan(0.5);
  });
});

describe('pressure from speed', () => {
  it('is firm when slow, light when fast, and never jumps', () => {
    const settle = (ptPerMs: number) => {
      const model = new SpeedPressure();
      return Array.from({ length: 100 }, (_, i) => model.next(i * 8 * ptPerMs, 0, i * 8));
    };
    const slow = settle(0.02);
    const fast = settle(3);
    expect(slow.at(-1)).toBeGreaterThan(0.7);
    expect(fast.at(-1)).toBeLessThan(0.3);
    fast.forEach((value, i) => i > 0 && expect(Math.abs(value - fast[i - 1])).toBeLessThan(0.1));
  });
});
