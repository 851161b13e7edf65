import { frameMatrix } from '@kite-trail/core/lesson/frame';
import type { Piece } from '@kite-trail/core/lesson/piece';
import { LINE_SHARE } from '@kite-trail/core/typeset/line-share';
import { textOf } from '@kite-trail/core/search/typed';
import type { PageState } from '@kite-trail/core/lesson/scene';

/** What is typed, and where it begins: a matrix of the page's own coordinates, down the page. */
interface Typed {
  text: string;
  sizePt: number;
  matrix: readonly number[];
}

/** What is typed in a text, or in a shape, line by line: from its top, or about its middle. */
function typedIn(piece: Piece): Typed[] {
  if (piece.kind !== 'text' && piece.kind !== 'shape') return [];
  const { frame } = piece;
  const sizePt = piece.kind === 'text' ? piece.content.style.sizePt : (piece.content.label?.style.sizePt ?? 0);
  const [a, b, c, d, e, f] = frameMatrix(frame);
  const lines = textOf(piece).split('\n');
  const first = piece.kind === 'text' ? -frame.heightPt / 2 + sizePt : (1 - lines.length / 2) * LINE_SHARE * sizePt;
  return lines.map((text, n) => {
    const [x, y] = [-frame.widthPt / 2, first + LINE_SHARE * n * sizePt];
    return { text, sizePt, matrix: [a, b, -c, -d, a * x + c * y + e, b * x + d * y + f] };
  });
}

/** The letters that every PDF reader has (WinAnsi, as far as it is Latin 1). */
const PLAIN = /^[\x20-\x7e\xa0-\xff]*$/;

/**
 * The typed texts of a page as PDF operators that show nothing, upon the outlines that do: they are found, read aloud and copied.
 * Whatever the font, `ActualText` says what they are (ISO 32000-1, section 14.9.4).
 * @param font the name of a font of plain letters on the page
 */
export function typedText({ page, pieces }: PageState, font: string): string[] {
  return pieces.flatMap(typedIn).flatMap(({ text, sizePt, matrix }) => {
    if (text.trim() === '') return [];
    const [a, b, c, d, e, f] = matrix.map((value) => value.toFixed(4));
    const x = (Number(e) - page.leftPt).toFixed(3);
    const y = (Number(f) - page.topPt).toFixed(3);
    const shown = PLAIN.test(text) ? text : '.';
    return [
      `/Span << /ActualText <FEFF${utf16(text)}> >> BDC`,
      `BT 3 Tr /${font} ${sizePt.toFixed(2)} Tf ${a} ${b} ${c} ${d} ${x} ${y} Tm (${literal(shown)}) Tj ET`,
      'EMC',
    ];
  });
}

const utf16 = (text: string): string =>
  Array.from({ length: text.length }, (_, i) => text.charCodeAt(i).toString(16).padStart(4, '0')).join('');

/** Bytes beyond ASCII are written in octal, for content is kept as ASCII. */
const literal = (text: string): string =>
  text
    .replace(/[\\()]/g, '\\$&')
    .replace(/[\xa0-\xff]/g, (letter) => `\\${letter.charCodeAt(0).toString(8).padStart(3, '0')}`);
