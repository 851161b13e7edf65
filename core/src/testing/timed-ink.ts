import { InkPoints } from '../ink/points';
import type { PieceId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import { newStroke } from '../lesson/piece';
import { base } from './arbitraries';

export const SECOND = 48_000;

/** A stroke written from one second to another. */
export const inkAt = (id: string, from: number, to: number, page = base.shown): Mark => ({
  kind: 'ink',
  page,
  atSamples: from * SECOND,
  stroke: newStroke({
    id: id as PieceId,
    z: 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 3 },
    points: InkPoints.from([0, (to - from) * 1000].map((sinceMs) => ({ xPt: 1, yPt: 1, pressure: 0.5, sinceMs }))),
  }),
});
