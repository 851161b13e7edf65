import { expose } from 'comlink';
import type { Drawing } from '@kite-trail/core/drawing/drawing';
import type { Contents, TextStyle } from '@kite-trail/core/lesson/content';

/** What the numbers of a plot are made of. */
const NUMBERS = '0123456789.−e+';

/**
 * Sets text, formulas and plots. What each needs is loaded when it is first asked for, and only then: HarfBuzz begins with a wait, during
 * which a worker would hear nothing of what it is sent.
 */
const typesetter = {
  text: async (text: string, style: TextStyle, wrapPt: number | null) => {
    const [{ setText }, { typefaceFor }] = await Promise.all([
      import('@kite-trail/core/typeset/text'),
      import('../typeset/fonts'),
    ]);
    return setText(text, style, wrapPt, await typefaceFor(text, style.font, style.bold));
  },
  formula: async ({ tex, sizePt }: Contents['formula']): Promise<Drawing> => {
    const { setFormula } = await import('@kite-trail/core/typeset/formula');
    return setFormula(tex, sizePt);
  },
  plot: async (content: Contents['plot']): Promise<Drawing> => {
    const [{ drawPlot }, { typefaceFor }] = await Promise.all([
      import('@kite-trail/core/typeset/plot'),
      import('../typeset/fonts'),
    ]);
    return drawPlot(content, await typefaceFor(NUMBERS, 'clear', false));
  },
};
export type Typesetter = typeof typesetter;

expose(typesetter);
