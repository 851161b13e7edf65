import bidiFactory from 'bidi-js';
import type { SetGlyph, SetRun, Typeface } from './typeface';

const bidi = bidiFactory();

/** A part of a line, with the level it is embedded at: odd levels are read from right to left. */
interface Run extends SetRun {
  level: number;
}

/**
 * Sets one line: what is read from right to left stands so, also within a text that is read the other way (Unicode Bidirectional
 * Algorithm, UAX #9).
 * @returns its glyphs from left to right, and how far the line reaches, in thousandths of its size
 */
export function setLine(text: string, face: Typeface): SetRun {
  let at = 0;
  const glyphs: SetGlyph[] = [];
  for (const run of inSight(runsOf(text, face))) {
    for (const glyph of run.glyphs) glyphs.push({ ...glyph, x: at + glyph.x });
    at += run.advance;
  }
  return { glyphs, advance: at };
}

function runsOf(text: string, face: Typeface): Run[] {
  if (text === '') return [];
  const { levels } = bidi.getEmbeddingLevels(text);
  const runs: Run[] = [];
  for (let start = 0; start < text.length;) {
    const level = levels[start];
    let end = start + 1;
    while (end < text.length && levels[end] === level) end++;
    for (const part of face.parts(text.slice(start, end))) {
      runs.push({ ...part.file.set(part.text, level % 2 === 1), level });
    }
    start = end;
  }
  return runs;
}

/** Runs as they stand from left to right (UAX #9, rule L2): from the highest level down, what lies at it or above is turned around. */
function inSight(runs: readonly Run[]): Run[] {
  const order = [...runs];
  const highest = Math.max(0, ...runs.map(({ level }) => level));
  for (let level = highest; level > 0; level--) {
    for (let start = 0; start < order.length;) {
      let end = start;
      while (end < order.length && order[end].level >= level) end++;
      order.splice(start, end - start, ...order.slice(start, end).reverse());
      start = Math.max(end, start + 1);
    }
  }
  return order;
}
