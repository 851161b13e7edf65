import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { restacked } from '@kite-trail/core/lesson/arrange';
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { NO_IMAGES } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { differenceBetween } from '@kite-trail/core/trail/difference';
import { Timeline } from '@kite-trail/core/trail/timeline';
import { createCanvas } from '@napi-rs/canvas';
import { handwriting } from './big-lesson';
import { p95, rounded } from './figures';

const STROKES = 10_000;
const LENGTH_SAMPLES = 3600 * CLOCK_HZ;
const FRAME_SAMPLES = CLOCK_HZ / 30;
/** So many frames of the last minutes, when the page is fullest. */
const FRAMES = 900;
const SIZE = { widthPx: 1280, heightPx: 720 };

/** A panel that was used all morning: 10,000 strokes on one page, replayed frame by frame at its end, and sought in. */
export function benchCrowdedPage(): Record<string, number> {
  const page = wideSquaredPage('crowded-page' as PageId);
  const strokes = handwriting();
  const marks = Array.from({ length: STROKES }, (_, n): Mark => ({
    kind: 'ink',
    page: page.id,
    atSamples: Math.round(((n + 0.5) / STROKES) * LENGTH_SAMPLES),
    stroke: strokes.next().value as Stroke,
  }));
  const timeline = new Timeline(sceneOf([{ page, pieces: [] }]), { lengthSamples: LENGTH_SAMPLES, marks });
  const { pieces } = shownPage(timeline.end);
  const surface = createCanvas(SIZE.widthPx, SIZE.heightPx).getContext('2d');
  const placement = fitPage(page, SIZE);
  const frameMs: number[] = [];
  const seekMs: number[] = [];
  let before = timeline.at(LENGTH_SAMPLES - FRAMES * FRAME_SAMPLES);
  paintPage(surface, shownPage(before.scene), placement, NO_IMAGES, before);
  for (let n = 1; n <= FRAMES; n++) {
    const start = performance.now();
    const moment = timeline.at(LENGTH_SAMPLES - (FRAMES - n) * FRAME_SAMPLES);
    differenceBetween(before, moment);
    frameMs.push(performance.now() - start);
    before = moment;
  }
  for (let n = 0; n < 200; n++) {
    const start = performance.now();
    timeline.at(((n * 7919) % 200) * (LENGTH_SAMPLES / 200));
    seekMs.push(performance.now() - start);
  }
  const toBack = restacked(pieces, pieces.slice(-1), 'back');
  const reorder = encodeMarks([{ kind: 'arrange', page: page.id, pieces: toBack, atSamples: 0 }]);
  return {
    scene_frame_10000_on_a_page_ms: rounded(p95(frameMs), 3),
    scene_seek_10000_on_a_page_ms: rounded(p95(seekMs), 3),
    reorder_10000_bytes: reorder.length,
  };
}
