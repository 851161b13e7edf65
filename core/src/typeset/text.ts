import { storableDrawing, UNITS_PER_EM, type Drawing, type Letter } from '../drawing/drawing';
import type { TextStyle } from '../lesson/content';
import { LINE_SHARE } from './line-share';
import { setLine } from './line';
import { lettersOf, type Typeface } from './typeface';

/**
 * Sets text in a font: shaped, kerned, in the direction it is read in, line by line, aligned within its longest line or within the width it is broken at.
 * @param wrapPt lines are broken between words at this width; a word that is longer is broken where it must be
 * @returns the drawing, and the letters the font does not have
 */
export function setText(
  text: string,
  style: TextStyle,
  wrapPt: number | null,
  face: Typeface,
): { drawing: Drawing; missing: string[] } {
  const { sizePt } = style;
  const unit = sizePt / UNITS_PER_EM;
  const lines = linesOf(text, sizePt, wrapPt, face).map((line) => setLine(line, face));
  const widthPt = wrapPt ?? Math.max(sizePt / 2, ...lines.map((line) => line.advance * unit));
  const leading = sizePt * LINE_SHARE;
  // The letters stand in the middle of their line.
  const baseline = (leading - sizePt * 1.25) / 2 + face.rise * sizePt;
  const letters = lines.flatMap((line, n): Letter[] => {
    const room = widthPt - line.advance * unit;
    const indent = style.align === 'left' ? 0 : style.align === 'right' ? room : room / 2;
    return line.glyphs
      .filter(({ outline }) => outline.length > 0)
      .map(({ outline, x, y }) => ({
        outline,
        xPt: indent + x * unit,
        yPt: n * leading + baseline - y * unit,
        sizePt,
      }));
  });
  const missing = [...new Set(lettersOf(text))].filter((letter) => !/^\s+$/.test(letter) && !face.has(letter));
  return { drawing: storableDrawing({ widthPt, heightPt: lines.length * leading, letters, lines: [] }), missing };
}

/** The lines of a text, broken as {@link setText} breaks them. */
export function linesOf(text: string, sizePt: number, wrapPt: number | null, face: Typeface): string[] {
  const most = wrapPt === null ? null : (wrapPt * UNITS_PER_EM) / sizePt;
  return text.split(/\r\n?|\n/).flatMap((line) => brokenLines(line.replaceAll('\t', '    '), most, face));
}

/** @param most how wide a line may be, in thousandths of its size */
function brokenLines(text: string, most: number | null, face: Typeface): string[] {
  if (most === null) return [text];
  const isTooWide = (line: string) => setLine(line.trimEnd(), face).advance > most;
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(/(?<= )/)) {
    if (!isTooWide(line + word)) {
      line += word;
      continue;
    }
    if (line !== '') lines.push(line.trimEnd());
    line = '';
    if (!isTooWide(word)) {
      line = word;
      continue;
    }
    for (const letter of lettersOf(word)) {
      if (line !== '' && isTooWide(line + letter)) {
        lines.push(line);
        line = '';
      }
      line += letter;
    }
  }
  return [...lines, line];
}
