import { z } from 'zod';
import type { GroupId, PageId } from './ids';

/** What the teacher asked for, by the kind of piece. Stored as JSON, so it is checked where it is read. */

const color = z.string().regex(/^#[0-9a-f]{6}$/);
const finite = z.number().refine(Number.isFinite);

/** The unit of a page's scale. */
export const pageUnit = z.string().max(12, 'A unit has at most 12 letters.');

/** A text's letters, and those of the text in a shape. */
export const MOST_LETTERS = 4000;
export const MOST_LABEL_LETTERS = 1000;

/** A text as parts of at most so many letters, divided behind a line or a word where there is one; together they are the text. */
export function dividedText(text: string, most: number): string[] {
  const parts: string[] = [];
  let rest = text;
  while (rest.length > most) {
    const head = rest.slice(0, most);
    const lineEnd = head.lastIndexOf('\n') + 1;
    const wordEnd = head.lastIndexOf(' ') + 1;
    // Without a word's end a letter of two code units must not be cut through.
    const anywhere = /[\uD800-\uDBFF]$/.test(head) ? most - 1 : most;
    const at = lineEnd > most / 2 ? lineEnd : wordEnd || anywhere;
    parts.push(rest.slice(0, at));
    rest = rest.slice(at);
  }
  return [...parts, rest];
}

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
  text: z.string().max(MOST_LETTERS, 'A text holds at most 4,000 letters. Put the rest into another text.'),
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
  label: z
    .object({
      text: z
        .string()
        .max(
          MOST_LABEL_LETTERS,
          'The text in a shape holds at most 1,000 letters. Put the rest into a text beside it.',
        ),
      style: textStyle,
    })
    .nullable(),
});

const formula = z.object({
  tex: z.string().max(2000, 'A formula holds at most 2,000 letters. Divide it into two.'),
  color,
  sizePt: finite.min(4).max(400),
});

const range = z
  .object({ from: finite, to: finite })
  .refine(({ from, to }) => from < to, 'A range needs a smaller start.');
const plot = z.object({
  x: range,
  y: range,
  grid: z.boolean(),
  color,
  curves: z
    .array(z.object({ expression: z.string().max(200, 'A curve’s formula holds at most 200 letters.'), color }))
    .max(8, 'A plot holds at most eight curves.'),
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
      z.object({ to: z.literal('web'), url: z.httpUrl().max(2000, 'A web address has at most 2,000 letters.') }),
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
