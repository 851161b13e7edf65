import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { legibleInk } from '@kite-trail/core/paint/legible';
import { SAMPLES_PER_MS } from '@kite-trail/core/trail/clock';
import { firstAtOrAfter } from '@kite-trail/core/trail/trail';
import { FillRun } from './fill-run';

/** A part of the trail and where it is drawn, in CSS pixels. */
export interface TrailArea {
  fromSamples: number;
  toSamples: number;
  width: number;
  top: number;
  height: number;
  /** The palette's colours by their names. */
  color: (name: string) => string;
}

export const TICK_HEIGHT = 13;
export const KITE_SIZE = 6;
/** No stroke is longer, as far as those begun before an area are looked for. */
const LONGEST_STROKE_SAMPLES = 60_000 * SAMPLES_PER_MS;

/** Where a moment of the trail is drawn. */
export const xIn = ({ fromSamples, toSamples, width }: TrailArea, samples: number): number =>
  ((samples - fromSamples) / Math.max(1, toSamples - fromSamples)) * width;

/** Draws voice as a ribbon. @param ribbon how loud it is, 0 to 1, from pixel to pixel */
export function drawVoice(surface: CanvasRenderingContext2D, ribbon: Float32Array, area: TrailArea): void {
  const middle = Math.round(area.top + (area.height - TICK_HEIGHT + KITE_SIZE * 2) / 2);
  const reach = middle - area.top - KITE_SIZE * 2 - 2;
  const voiceColor = area.color('tail');
  const run = new FillRun(surface);
  for (const [x, loudness] of ribbon.entries()) {
    const half = Math.max(1, Math.round(loudness * reach));
    run.add(voiceColor, x, x + 1, middle - half, half * 2);
  }
  run.end();
}

/** Draws ink as ticks in its own colours at the foot, and page turns as kites at the top where those are wanted. */
export function drawMarks(
  surface: CanvasRenderingContext2D,
  marks: readonly Mark[],
  area: TrailArea,
  hasKites: boolean,
): void {
  const foot = area.top + area.height;
  surface.fillStyle = area.color('line');
  surface.fillRect(0, foot - TICK_HEIGHT - 2, area.width, 1);
  const ground = area.color('sail');
  const ticks = new FillRun(surface);
  let page: PageId | null = null;
  const first = firstAtOrAfter(marks, area.fromSamples - LONGEST_STROKE_SAMPLES);
  for (let i = first; i < marks.length && marks[i].atSamples <= area.toSamples; i++) {
    const mark = marks[i];
    const x = Math.round(xIn(area, mark.atSamples));
    if (mark.kind === 'ink') {
      const end = Math.round(xIn(area, mark.atSamples + mark.stroke.points.lengthMs * SAMPLES_PER_MS));
      const color = legibleInk(mark.stroke.pen.color, ground);
      ticks.add(color, x, Math.max(x + 2, end), foot - TICK_HEIGHT + 1, TICK_HEIGHT - 3);
    } else if (mark.kind === 'turn' && hasKites) {
      if (page !== null && mark.page !== page) drawKite(surface, x, area.top, area);
      page = mark.page;
    }
  }
  ticks.end();
}

export function drawKite(surface: CanvasRenderingContext2D, x: number, top: number, { color }: TrailArea): void {
  surface.fillStyle = color('kite-deep');
  surface.beginPath();
  surface.moveTo(x, top);
  surface.lineTo(x + KITE_SIZE * 0.8, top + KITE_SIZE * 0.8);
  surface.lineTo(x, top + KITE_SIZE * 2.2);
  surface.lineTo(x - KITE_SIZE * 0.8, top + KITE_SIZE * 0.8);
  surface.fill();
}
