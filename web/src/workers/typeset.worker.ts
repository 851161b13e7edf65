import { expose } from 'comlink';
import type { Drawing } from '@kite-trail/core/drawing/drawing';
import type { Contents, FontName, TextStyle } from '@kite-trail/core/lesson/content';
import { setText } from '@kite-trail/core/typeset/text';
import { Typeface } from '@kite-trail/core/typeset/typeface';
import { FONT_FILES } from '../typeset/fonts';

/** Sets text, formulas and plots. What only some of them need is loaded when it is asked for. */
const faces = new Map<string, Promise<Typeface>>();

function faceOf(font: FontName, bold: boolean): Promise<Typeface> {
  const key = `${font} ${bold}`;
  let face = faces.get(key);
  if (!face) {
    face = loadFace(font, bold);
    faces.set(key, face);
    // A network that comes back is asked again.
    face.catch(() => faces.delete(key));
  }
  return face;
}

async function loadFace(font: FontName, bold: boolean): Promise<Typeface> {
  const urls = FONT_FILES[font][bold ? 'bold' : 'regular'];
  return new Typeface(
    await Promise.all(
      urls.map(async (url) => {
        const answer = await fetch(url);
        if (!answer.ok) throw new Error('The font cannot be loaded just now. Try again in a moment.');
        return answer.arrayBuffer();
      }),
    ),
  );
}

const typesetter = {
  text: async (text: string, style: TextStyle, wrapPt: number | null) =>
    setText(text, style, wrapPt, await faceOf(style.font, style.bold)),
  formula: async ({ tex, sizePt }: Contents['formula']): Promise<Drawing> => {
    const { setFormula } = await import('@kite-trail/core/typeset/formula');
    return setFormula(tex, sizePt);
  },
  plot: async (content: Contents['plot']): Promise<Drawing> => {
    const { drawPlot } = await import('@kite-trail/core/typeset/plot');
    return drawPlot(content, await faceOf('clear', false));
  },
};
export type Typesetter = typeof typesetter;

expose(typesetter);
