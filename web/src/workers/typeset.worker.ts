import { expose } from 'comlink';
import type { Drawing } from '@kite-trail/core/drawing/drawing';
import type { Contents, TextStyle } from '@kite-trail/core/lesson/content';
import { setText } from '@kite-trail/core/typeset/text';
import { typefaceFor } from '../typeset/fonts';

/** What the numbers of a plot are made of. */
const NUMBERS = '0123456789.−e+';

/** Sets text, formulas and plots. What only some of them need is loaded when it is asked for. */
const typesetter = {
  text: async (text: string, style: TextStyle, wrapPt: number | null) =>
    setText(text, style, wrapPt, await typefaceFor(text, style.font, style.bold)),
  formula: async ({ tex, sizePt }: Contents['formula']): Promise<Drawing> => {
    const { setFormula } = await import('@kite-trail/core/typeset/formula');
    return setFormula(tex, sizePt);
  },
  plot: async (content: Contents['plot']): Promise<Drawing> => {
    const { drawPlot } = await import('@kite-trail/core/typeset/plot');
    return drawPlot(content, await typefaceFor(NUMBERS, 'clear', false));
  },
};
export type Typesetter = typeof typesetter;

expose(typesetter);
