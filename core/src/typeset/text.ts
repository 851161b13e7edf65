import { settledDrawing, UNITS_PER_EM, type Drawing, type Letter } from '../drawing/drawing';
import type { TextStyle } from '../lesson/content';
import { LINE_SHARE } from './line-share';
import type { SetLetter, Typeface } from './typeface';

interface Line {
  letters: { letter: SetLetter; xPt: number }[];
  widthPt: number;
}

/**
 * Sets text in a font: kerned, line by line, aligned within its longest line or within the width it is broken at.
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
  const lines = text.split('\n').flatMap((line) => brokenLines(line.replaceAll('\t', '    '), sizePt, wrapPt, face));
  const widthPt = wrapPt ?? Math.max(sizePt / 2, ...lines.map((line) => line.widthPt));
  const leading = sizePt * LINE_SHARE;
  // The letters stand in the middle of their line.
  const baseline = (leading - sizePt * 1.25) / 2 + face.rise * sizePt;
  const letters = lines.flatMap((line, n): Letter[] => {
    const room = widthPt - line.widthPt;
    const indent = style.align === 'left' ? 0 : style.align === 'right' ? room : room / 2;
    return line.letters
      .filter(({ letter }) => letter.outline.length > 0)
      .map(({ letter, xPt }) => ({
        outline: letter.outline,
        xPt: indent + xPt,
        yPt: n * leading + baseline,
        sizePt,
      }));
  });
  const missing = [...new Set(text)].filter((letter) => !/\s/.test(letter) && face.letter(letter).isMissing);
  return { drawing: settledDrawing({ widthPt, heightPt: lines.length * leading, letters, lines: [] }), missing };
}

function brokenLines(text: string, sizePt: number, wrapPt: number | null, face: Typeface): Line[] {
  if (wrapPt === null) return [setLine(text, sizePt, face)];
  const lines: Line[] = [];
  let line = '';
  for (const word of text.split(/(?<= )/)) {
    if (line !== '' && setLine((line + word).trimEnd(), sizePt, face).widthPt > wrapPt) {
      lines.push(setLine(line.trimEnd(), sizePt, face));
      line = '';
    }
    for (const letter of word) {
      if (line !== '' && setLine((line + letter).trimEnd(), sizePt, face).widthPt > wrapPt) {
        lines.push(setLine(line, sizePt, face));
        line = '';
      }
      line += letter;
    }
  }
  return [...lines, setLine(line, sizePt, face)];
}

function setLine(text: string, sizePt: number, face: Typeface): Line {
  const unit = sizePt / UNITS_PER_EM;
  const letters: Line['letters'] = [];
  let xPt = 0;
  let before: SetLetter | null = null;
  for (const one of text) {
    const letter = face.letter(one);
    if (before) xPt += before.kerningTo(letter) * unit;
    letters.push({ letter, xPt });
    xPt += letter.advance * unit;
    before = letter;
  }
  return { letters, widthPt: xPt };
}
