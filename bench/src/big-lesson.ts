import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { newStroke, type Stroke } from '@kite-trail/core/lesson/piece';
import { sceneOf, type Scene } from '@kite-trail/core/lesson/scene';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { Trail } from '@kite-trail/core/trail/trail';
import { textPaths } from '@kite-trail/demo/pen/letters';
import { SimulatedPen } from '@kite-trail/demo/pen/simulated-pen';

const WORDS = 'harbour tide rudder sheet anchor bearing fathom lee windward knot chart buoy';

/** Handwriting of the simulated pen, letter by letter across and down pages. */
export function* handwriting(): Generator<Stroke> {
  const pen = new SimulatedPen(3);
  let n = 0;
  for (;;) {
    for (let line = 0; line < 9; line++) {
      for (const path of textPaths(WORDS.slice(0, 40), 48, 60 + line * 54, 20)) {
        const id = `piece-${String(++n).padStart(6, '0')}` as PieceId;
        const points = pen.write(path);
        yield newStroke({ id, z: n, pen: { kind: 'pen', color: '#1f2a44', widthPt: 2.6 }, points });
      }
    }
  }
}

/** A lesson of 60 minutes, 40 pages and 5,000 strokes. */
export function bigLesson(): { base: Scene; trail: Trail } {
  const pages = Array.from({ length: 40 }, (_, n) => wideSquaredPage(`bench-page-${n}` as PageId));
  const lengthSamples = 3600 * CLOCK_HZ;
  const marks: Mark[] = [];
  const strokes = handwriting();
  for (let n = 0; n < 5000; n++) {
    const atSamples = Math.round(((n + 0.5) / 5000) * lengthSamples);
    const page = pages[Math.floor(n / 125)].id;
    if (n % 125 === 0) marks.push({ kind: 'turn', atSamples, page });
    marks.push({ kind: 'ink', atSamples, page, stroke: strokes.next().value as Stroke });
  }
  return { base: sceneOf(pages.map((page) => ({ page, pieces: [] }))), trail: { lengthSamples, marks } };
}
