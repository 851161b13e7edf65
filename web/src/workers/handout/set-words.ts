import { frameOf } from '@kite-trail/core/lesson/frame';
import type { FontName, TextStyle } from '@kite-trail/core/lesson/content';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { BLANK_PAPER, blankPage } from '@kite-trail/core/lesson/page';
import { NEW } from '@kite-trail/core/lesson/piece';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { LINE_SHARE } from '@kite-trail/core/typeset/line-share';
import type { Typeface } from '@kite-trail/core/typeset/typeface';

/** How what stands beside pages is written. */
const STYLE = { font: 'clear', bold: false, color: '#3d4763', align: 'left' } as const satisfies Partial<TextStyle>;

/** Finds a font with all letters of a text. */
export type TypefaceFor = (text: string, font: FontName, isBold: boolean) => Promise<Typeface>;

/** What sets type is loaded when it is first needed. */
const typesetting = () => import('@kite-trail/core/typeset/text');

/** How many lines of a size a box has room for. */
export const linesWithin = (sizePt: number, heightPt: number): number => Math.floor(heightPt / (sizePt * LINE_SHARE));

/** Sets what stands beside pages. */
export class WordSetter {
  constructor(private readonly typefaceFor: TypefaceFor) {}

  /** The lines of a text at a size, none wider than a box. */
  async brokenInto(text: string, sizePt: number, widthPt: number): Promise<string[]> {
    if (text === '') return [];
    const { linesOf } = await typesetting();
    return linesOf(text, sizePt, widthPt, await this.typefaceFor(text, STYLE.font, STYLE.bold));
  }

  /** Lines as a page of their own, as large as they are: it is drawn as all pages are, in whatever script, and found by whoever searches. */
  async pageOfLines(lines: readonly string[], sizePt: number): Promise<PageState> {
    const text = lines.join('\n');
    const style: TextStyle = { ...STYLE, sizePt };
    const { setText } = await typesetting();
    const { drawing } = setText(text, style, null, await this.typefaceFor(text, STYLE.font, STYLE.bold));
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
}
