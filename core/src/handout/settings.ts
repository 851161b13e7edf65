import { z } from 'zod';

export const PAGES_A_SHEET = [1, 2, 4, 6] as const;
export const SHEET_SIZES = {
  a4: { widthPt: 595.28, heightPt: 841.89 },
  letter: { widthPt: 612, heightPt: 792 },
} as const;
export const HANDOUT_INK = ['with', 'without', 'both'] as const;
export const HANDOUT_MOMENTS = ['end', 'chapters', 'steps'] as const;
export const HANDOUT_BESIDE = ['nothing', 'lines', 'words'] as const;

/** What a hand-out is to be like. */
export const handoutSettings = z.object({
  /** Pages as they end, the page shown at the end of each chapter, or pages before and after each step. */
  moments: z.enum(HANDOUT_MOMENTS),
  /** `both`: a sheet to fill in, and then its answer key. */
  ink: z.enum(HANDOUT_INK),
  perSheet: z.union([z.literal(1), z.literal(2), z.literal(4), z.literal(6)]),
  size: z.enum(['a4', 'letter']),
  /** Lines to write on, or what is said meanwhile, where the lesson has captions. */
  beside: z.enum(HANDOUT_BESIDE),
  hasNumbers: z.boolean(),
  /** A code beside each page that leads to its moment, where the lesson has a link. */
  hasCodes: z.boolean(),
});
export type HandoutSettings = z.infer<typeof handoutSettings>;

export const USUAL_HANDOUT: HandoutSettings = {
  moments: 'end',
  ink: 'with',
  perSheet: 1,
  size: 'a4',
  beside: 'nothing',
  hasNumbers: true,
  hasCodes: true,
};
