import { lettersOfFont } from '../reading/alphabet';
import type { Polyline } from '../reading/point-cloud';

/** Texts of our school, of each sort that is to be read. */
export const WRITTEN = {
  numbers: ['0123456789', '4.2 + 1.7 = 5.9', '360 - 145 = 215', '12 18 27 30 56', '052 07 31 498'],
  capitals: ['SPRING TIDE', 'LOW WATER', 'BOAT', 'HARBOUR', 'NORTH EAST', 'QUAY', 'FIX', 'ANCHOR CHAIN', 'JIB', 'VMG'],
  words: ['tide', 'depth', 'keel', 'wind', 'mast', 'Buoy', 'chart', 'sail', 'moon', 'north'],
} as const;

/** How unsteady the hand is, in units of fonts with 1,000 to the em. */
const [SHAKE, DRIFT, LEAN, SIZE] = [4, 13, 0.08, 0.06];
const SPACE = 500;
const DOT: readonly Polyline[] = [[60, 0, 70, -10]];

/**
 * A line of text as somebody writes it whose letters are those of a font of single strokes: every letter a little
 * larger or smaller, higher or lower, bent and shaky, never twice the same; the whole leaning.
 * @param random 0 to 1
 */
export function written(text: string, svgFont: string, random: () => number): number[][] {
  const letters = lettersOfFont(svgFont);
  const advances = new Map(
    [...svgFont.matchAll(/<glyph unicode="([^"]+)"[^>]*horiz-adv-x="([^"]+)"/g)].map(([, letter, advance]) => [
      letter,
      Number(advance),
    ]),
  );
  // The sum of four is nearly a normal deviate, with a standard deviation of 0.58.
  const about = () => random() + random() + random() + random() - 2;
  const lean = about() * LEAN;
  const strokes: number[][] = [];
  let x = 0;
  for (const letter of text) {
    if (letter === ' ') {
      x += SPACE;
      continue;
    }
    const [scale, atX, atY] = [1 + about() * SIZE, x + about() * DRIFT, about() * DRIFT];
    const [bendX, bendY] = [about() * 0.05, about() * 0.05];
    for (const stroke of letter === '.' ? DOT : letters.get(letter)!) {
      const [asideX, asideY] = [about() * DRIFT, about() * DRIFT];
      const line: number[] = [];
      for (let i = 0; i < stroke.length; i += 2) {
        const [px, py] = [stroke[i] * scale, stroke[i + 1] * scale];
        line.push(
          atX + asideX + px - lean * py + (bendX * py * px) / 700 + about() * SHAKE,
          atY + asideY + py + bendY * px + about() * SHAKE,
        );
      }
      strokes.push(line);
    }
    x += advances.get(letter)!;
  }
  return strokes;
}

/** How many letters must be put in, taken out or changed to make one text the other (Levenshtein 1966). */
export function editsBetween(one: string, other: string): number {
  let row = Array.from({ length: other.length + 1 }, (_, j) => j);
  for (let i = 1; i <= one.length; i++) {
    const next = [i];
    for (let j = 1; j <= other.length; j++) {
      next.push(Math.min(row[j] + 1, next[j - 1] + 1, row[j - 1] + (one[i - 1] === other[j - 1] ? 0 : 1)));
    }
    row = next;
  }
  return row[other.length];
}
