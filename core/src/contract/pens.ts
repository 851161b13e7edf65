import { z } from 'zod';
import { PEN_KINDS, type Pen } from '../lesson/piece';
import { color } from './primitives';

export const THINNEST_PT = 0.4;
export const BROADEST_PT = 48;
const MOST_PENS = 24;

const pen: z.ZodType<Pen> = z.object({
  kind: z.enum(PEN_KINDS),
  color,
  widthPt: z.number().min(THINNEST_PT).max(BROADEST_PT),
});

/** A teacher's own row of ready pens. */
export const penRoll = z
  .array(pen)
  .min(1, 'Keep at least one pen.')
  .max(MOST_PENS, `A roll holds ${MOST_PENS} pens at most.`);
export const keptPens = z.object({ roll: penRoll.nullable() });
