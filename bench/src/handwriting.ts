import { HANDS, plainTemplates, templatesOfFont, type Hand } from '@kite-trail/core/reading/alphabet';
import { read, textOf } from '@kite-trail/core/reading/reading';
import { Recogniser } from '@kite-trail/core/reading/recogniser';
import { seeded } from '@kite-trail/core/random/seeded';
import { editsBetween, written, WRITTEN } from '@kite-trail/core/testing/written';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { rounded } from './figures';

/** Printed hands; the others serve to learn from. */
const READ: readonly Hand[] = ['EMSNixish', 'EMSReadability', 'EMSTech', 'HersheySans1', 'EMSElfin'];
const LINES_EACH = 3;

/** Reads lines of numbers, capitals and words by each of five hands, knowing all hands but that one. */
export function benchHandwriting(): Record<string, number> {
  const { resolve } = createRequire(import.meta.url);
  const fonts = new Map(
    HANDS.map((hand) => [hand, readFileSync(resolve(`hersheytext/svg_fonts/${hand}.svg`), 'utf8')]),
  );
  const random = seeded(31);
  let [edits, letters, spentMs] = [0, 0, 0];
  for (const hand of READ) {
    const others = HANDS.filter((one) => one !== hand).flatMap((one) => templatesOfFont(fonts.get(one)!));
    const recogniser = new Recogniser([...others, ...plainTemplates()]);
    for (let n = 0; n < LINES_EACH; n++) {
      for (const text of Object.values(WRITTEN).flat()) {
        const strokes = written(text, fonts.get(hand)!, random);
        const start = performance.now();
        edits += editsBetween(text, textOf(read(strokes, recogniser)));
        spentMs += performance.now() - start;
        letters += text.length;
      }
    }
  }
  return {
    handwriting_char_accuracy_pct: rounded(100 * (1 - edits / letters)),
    handwriting_ms_per_char: rounded(spentMs / letters),
  };
}
