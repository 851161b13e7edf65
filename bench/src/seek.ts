import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { NO_IMAGES } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { Timeline } from '@kite-trail/core/trail/timeline';
import { createCanvas } from '@napi-rs/canvas';
import { bigLesson } from './big-lesson';
import { p95, rounded } from './figures';

const SEEKS = 300;

/** Seeks to moments all over a long lesson: the scene alone, and painted whole at 1280 × 720. */
export function benchSeek(): Record<string, number> {
  const { base, trail } = bigLesson();
  const opened = performance.now();
  const timeline = new Timeline(base, trail);
  const openMs = performance.now() - opened;
  const size = { widthPx: 1280, heightPx: 720 };
  const surface = createCanvas(size.widthPx, size.heightPx).getContext('2d');
  const sceneMs: number[] = [];
  const paintMs: number[] = [];
  for (let n = 0; n < SEEKS; n++) {
    const at = Math.floor((((n * 7919) % SEEKS) / SEEKS) * trail.lengthSamples);
    const start = performance.now();
    const moment = timeline.at(at);
    sceneMs.push(performance.now() - start);
    const state = shownPage(moment.scene);
    paintPage(surface, state, fitPage(state.page, size), NO_IMAGES, moment);
    surface.getImageData(0, 0, 1, 1);
    paintMs.push(performance.now() - start);
  }
  const points = trail.marks.reduce((sum, mark) => sum + (mark.kind === 'ink' ? mark.stroke.points.count : 0), 0);
  return {
    timeline_open_ms: rounded(openMs),
    seek_scene_p95_ms: rounded(p95(sceneMs), 3),
    seek_paint_p95_ms: rounded(p95(paintMs)),
    ink_bytes_per_point: rounded(encodeMarks(trail.marks).length / points),
  };
}
