import { z } from 'zod';
import type { GroupId, PageId } from './ids';

/** What the teacher asked for, by the kind of piece. Stored as JSON, so it is checked where it is read. */

const color = z.string().regex(/^#[0-9a-f]{6}$/);
const finite = z.number().refine(Number.isFinite);

/** The unit of a page's scale. */
export const pageUnit = z.string().max(12);

/** Fonts that ship with the application, by what they are good for. */
export const FONTS = ['clear', 'reader', 'school', 'book', 'dyslexia'] as const;
export type FontName = (typeof FONTS)[number];

export const textStyle = z.object({
  font: z.enum(FONTS),
  sizePt: finite.min(4).max(400),
  bold: z.boolean(),
  color,
  align: z.enum(['left', 'center', 'right']),
});
export type TextStyle = z.infer<typeof textStyle>;

const text = z.object({
  text: z.string().max(4000),
  style: textStyle,
  /** Lines are broken at this width; `null` where only the teacher breaks them. */
  wrapPt: finite.positive().nullable(),
});

export const FIGURES = ['line', 'arrow', 'rectangle', 'ellipse', 'triangle', 'star', 'polygon', 'callout'] as const;
export type Figure = (typeof FIGURES)[number];

const shape = z.object({
  figure: z.enum(FIGURES),
  /** Of a polygon, or points of a star. */
  sides: z.int().min(3).max(12),
  color,
  widthPt: finite.min(0).max(48),
  dash: z.enum(['solid', 'dashed', 'dotted']),
  fill: color.nullable(),
  shadow: z.boolean(),
  label: z.object({ text: z.string().max(1000), style: textStyle }).nullable(),
});

const formula = z.object({ tex: z.string().max(2000), color, sizePt: finite.min(4).max(400) });

const range = z
  .object({ from: finite, to: finite })
  .refine(({ from, to }) => from < to, 'A range needs a smaller start.');
const plot = z.object({
  x: range,
  y: range,
  grid: z.boolean(),
  color,
  curves: z.array(z.object({ expression: z.string().max(200), color })).max(8),
});

export const INSTRUMENTS = ['ruler', 'set-square', 'protractor', 'compasses'] as const;
const instrument = z.object({
  instrument: z.enum(INSTRUMENTS),
  /** What a centimetre of the page stands for. */
  scale: z.object({ perCm: finite.positive(), unit: pageUnit }),
});

/** What sets a piece apart from a new one. */
export const traits = z.object({
  opacity: finite.min(0).max(1),
  locked: z.boolean(),
  group: z
    .string()
    .max(40)
    .transform((id) => id as GroupId)
    .nullable(),
  link: z
    .discriminatedUnion('to', [
      z.object({ to: z.literal('web'), url: z.httpUrl().max(2000) }),
      z.object({
        to: z.literal('page'),
        page: z
          .string()
          .max(40)
          .transform((id) => id as PageId),
      }),
    ])
    .nullable(),
  handsOut: z.boolean(),
});

export const CONTENTS = { text, shape, formula, plot, instrument };
export type Contents = { [Kind in keyof typeof CONTENTS]: z.infer<(typeof CONTENTS)[Kind]> };
export type ComposedKind = keyof Contents;
export type Instrument = (typeof INSTRUMENTS)[number];
