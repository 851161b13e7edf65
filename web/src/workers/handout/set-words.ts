import { frameOf } from '@kite-trail/core/lesson/frame';
import type { TextStyle } from '@kite-trail/core/lesson/content';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { BLANK_PAPER, blankPage } from '@kite-trail/core/lesson/page';
import { NEW } from '@kite-trail/core/lesson/piece';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { LINE_SHARE } from '@kite-trail/core/typeset/line-share';

/** How what stands beside pages is written. */
const STYLE = { font: 'clear', bold: false, color: '#3d4763', align: 'left' } as const satisfies Partial<TextStyle>;

/** What sets type, loaded when it is first needed: it begins with a wait, during which a worker would hear nothing of what it is sent. */
async function typeFor(text: string) {
  const [{ linesOf, setText }, { typefaceFor }] = await Promise.all([
    import('@kite-trail/core/typeset/text'),
    import('../../typeset/fonts'),
  ]);
  return { linesOf, setText, face: await typefaceFor(text, STYLE.font, STYLE.bold) };
}

/** The lines of a text at a size, none wider than a box. */
export async function brokenInto(text: string, sizePt: number, widthPt: number): Promise<string[]> {
  if (text === '') return [];
  const { linesOf, face } = await typeFor(text);
  return linesOf(text, sizePt, widthPt, face);
}

/** How many lines of a size a box has room for. */
export const linesWithin = (sizePt: number, heightPt: number): number => Math.floor(heightPt / (sizePt * LINE_SHARE));

/** Lines as a page of their own, as large as they are: it is drawn as all pages are, in whatever script, and found by whoever searches. */
export async function pageOfLines(lines: readonly string[], sizePt: number): Promise<PageState> {
  const text = lines.join('\n');
  const style: TextStyle = { ...STYLE, sizePt };
  const { setText, face } = await typeFor(text);
  const { drawing } = setText(text, style, null, face);
  const { widthPt, heightPt } = drawing;
  return {
    page: blankPage('words' as PageId, { widthPt, heightPt }, BLANK_PAPER),
    pieces: [
      {
        ...NEW,
        id: 'words' as PieceId,
        z: 0,
        kind: 'text',
        frame: frameOf({ left: 0, top: 0, right: widthPt, bottom: heightPt }),
        content: { text, style, wrapPt: null },
        drawing,
      },
    ],
  };
}
