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

const MOST_COLORS = 16;
/** The colours a teacher has at hand. */
export const palette = z
  .array(color)
  .min(1, 'Keep at least one colour.')
  .max(MOST_COLORS, `A palette holds ${MOST_COLORS} colours at most.`);

export const MOST_LETTERS = 200;
/** Letters as the teacher writes them: their strokes as x, y pairs in a box of about 100. */
export const ownLetters = z
  .array(
    z.object({
      letter: z.string().length(1),
      strokes: z.array(z.array(z.number()).min(2).max(128)).min(1).max(6),
    }),
  )
  .max(MOST_LETTERS);
export type OwnLetter = z.output<typeof ownLetters>[number];

/** What is kept with a teacher; `null` where they have changed nothing yet. */
export const keptPens = z.object({
  roll: penRoll.nullable(),
  palette: palette.nullable().default(null),
  letters: ownLetters.default([]),
});
export type KeptPens = z.output<typeof keptPens>;
