import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PieceId } from '../lesson/ids';
import { newStroke, type Stroke } from '../lesson/piece';
import { stroke as anyStroke } from '../testing/arbitraries';
import { IDENTITY, scaleOfMatrix } from '../lesson/matrix';
import { placesOf } from '../lesson/touch';
import { pointDistance } from './hit';
import { halfWidthsPt } from './outline';
import { InkPoints } from './points';
import { rubbed } from './rub';

/** The storage grid moves a point by up to 1/64 pt. */
const GRID_PT = 0.05;
const place = fc.record({ xPt: fc.integer({ min: 0, max: 960 }), yPt: fc.integer({ min: 0, max: 540 }) });

const line = (widthPt = 2): Stroke =>
  newStroke({
    id: 'line' as PieceId,
    z: 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt },
    points: InkPoints.from([
      { xPt: 0, yPt: 100, pressure: 0.2, sinceMs: 0 },
      { xPt: 100, yPt: 100, pressure: 0.7, sinceMs: 200 },
      { xPt: 200, yPt: 100, pressure: 0.7, sinceMs: 300 },
    ]),
  });
const xs = ({ xPt }: InkPoints) => [xPt[0], xPt[xPt.length - 1]].map((x) => Math.round(x * 10) / 10);

describe('rubbing out a part of a stroke', () => {
  it('leaves what is outside the eraser, to its edge, with the times it was written at', () => {
    const [before, after, ...more] = rubbed(line(), { xPt: 50, yPt: 80 }, { xPt: 50, yPt: 120 }, 9)!;
    expect(more).toEqual([]);
    // 9 pt, and half of what the ink is painted broad there (1.1 and 1.2 pt), to either side.
    expect(xs(before)).toEqual([0, 39.9]);
    expect(xs(after)).toEqual([60.3, 200]);
    expect([...before.sinceMs]).toEqual([0, 80]);
    // It was at 60.3 pt after 121 ms; its own clock begins there.
    expect([...after.sinceMs]).toEqual([0, 79, 179]);
    expect(after.pressure[0]).toBeCloseTo(0.5, 2);
  });

  it('takes off an end, takes all of it, or nothing', () => {
    const end = rubbed(line(), { xPt: 200, yPt: 100 }, { xPt: 200, yPt: 100 }, 10)!;
    expect(end.map(xs)).toEqual([[0, 188.5]]);
    expect(rubbed(line(), { xPt: 0, yPt: 100 }, { xPt: 200, yPt: 100 }, 5)).toEqual([]);
    expect(rubbed(line(), { xPt: 50, yPt: 120 }, { xPt: 150, yPt: 120 }, 5)).toBeNull();
  });

  it('rubs ink out as broad as it is painted', () => {
    const marker = { ...line(10), pen: { kind: 'marker', color: '#1f2a44', widthPt: 10 } } as const;
    // A marker's ink is 1.8 times as broad as its pen: 9 pt to either side.
    const beside = (yPt: number) => rubbed(marker, { xPt: 50, yPt }, { xPt: 150, yPt }, 5);
    expect(beside(113.5)).not.toBeNull();
    expect(beside(114.5)).toBeNull();
  });

  it('rubs out ink that was made flat', () => {
    const flat: Stroke = { ...line(), matrix: [1, 0, 0, 0, 0, 50] };
    const [before, after] = rubbed(flat, { xPt: 50, yPt: 30 }, { xPt: 50, yPt: 70 }, 9)!;
    expect([xs(before), xs(after)]).toEqual([
      [0, 41],
      [59, 200],
    ]);
    expect(rubbed({ ...line(), matrix: [0, 0, 0, 0, 7, 7] }, { xPt: 7, yPt: 7 }, { xPt: 7, yPt: 7 }, 1)).toEqual([]);
  });

  it('leaves nothing where the eraser was, and everything where it was not, for any stroke and any way', () => {
    fc.assert(
      fc.property(anyStroke, place, place, fc.integer({ min: 2, max: 60 }), (stroke, from, to, radius) => {
        const parts = rubbed(stroke, from, to, radius);
        // Ink that was moved is rubbed out where it lies now, as broad as it is now.
        const scale = scaleOfMatrix(stroke.matrix ?? IDENTITY);
        const reach = radius + Math.min(...halfWidthsPt(stroke)) * scale;
        const distances = (points: InkPoints) =>
          placesOf({ ...stroke, points }).map(({ xPt, yPt }) =>
            pointDistance(xPt, yPt, from.xPt, from.yPt, to.xPt, to.yPt),
          );
        const { points } = stroke;
        const far = distances(points).filter((distance) => distance > reach);
        if (parts === null) return void expect(Math.min(...distances(points))).toBeGreaterThan(reach - GRID_PT);
        for (const part of parts) {
          for (const distance of distances(part))
            expect(distance).toBeGreaterThan(reach - GRID_PT * Math.max(1, scale));
          expect(part.sinceMs[0]).toBe(0);
          expect(part.lengthMs).toBeLessThanOrEqual(points.lengthMs);
        }
        const left = parts.reduce((sum, part) => sum + part.count, 0);
        // Each cut adds at most a point on either side of it; specks may go.
        expect(left).toBeLessThanOrEqual(far.length + 2 * points.count);
      }),
    );
  });
});
