import { SAMPLES_PER_MS } from '@kite-trail/core/trail/clock';
import type { PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { legibleInk } from '@kite-trail/core/paint/legible';
import type { PeakLevels } from '@kite-trail/core/sound/peaks';
import type { Cue } from '@kite-trail/core/trail/captions';
import type { PlacedChapter } from '@kite-trail/core/trail/chapters';
import { isSilenced, placeSegments, voiceOf, type Programme, type Segment } from '@kite-trail/core/trail/programme';
import { firstAtOrAfter, type Trail } from '@kite-trail/core/trail/trail';
import type { PaletteColor } from '../device/room-light';
import { clockText } from '../look/time';
import { FillRun } from './fill-run';

export interface TrailPicture {
  programme: Programme;
  trail: Trail;
  peaks: ReadonlyMap<TakeId, PeakLevels>;
}

/** What an editor of the trail shows beside voice and ink. */
export interface TrailLanes {
  chapters: readonly PlacedChapter[];
  cues: readonly Cue[];
}

/** A part of the trail and where it is drawn, in CSS pixels. */
interface TrailArea {
  fromSamples: number;
  toSamples: number;
  width: number;
  top: number;
  height: number;
  color: PaletteColor;
}

const TICK_HEIGHT = 13;
const KITE_SIZE = 6;
const FONT = "'Atkinson Hyperlegible Next Variable', sans-serif";
/** No stroke is longer, as far as those begun before an area are looked for. */
const LONGEST_STROKE_SAMPLES = 60_000 * SAMPLES_PER_MS;

/** How high the ruler of an editor is, and the lane for captions at its foot, in CSS pixels. */
export const RULER_PX = 32;
const CUES_PX = 26;

/** Where a moment of the trail is drawn. */
const xIn = ({ fromSamples, toSamples, width }: TrailArea, samples: number): number =>
  ((samples - fromSamples) / Math.max(1, toSamples - fromSamples)) * width;

/** Draws the trail; in an editor with its lanes, and with its segments in between. */
export function drawStrip(
  surface: CanvasRenderingContext2D,
  picture: TrailPicture,
  lanes: TrailLanes | undefined,
  area: TrailArea,
): void {
  surface.clearRect(0, area.top, area.width, area.height);
  if (!lanes) return drawTrail(surface, picture, area);
  const foot = area.top + area.height - CUES_PX;
  const inner = { ...area, top: area.top + RULER_PX, height: area.height - RULER_PX - CUES_PX };
  drawSegments(surface, picture.programme, inner);
  drawTrail(surface, picture, inner, false);
  drawRuler(surface, lanes.chapters, { ...area, height: RULER_PX });
  drawCues(surface, lanes.cues, { ...area, top: foot + 2, height: CUES_PX - 2 });
}

/**
 * Draws voice as a ribbon, ink as ticks in its own colours below it, and page turns as kites above, unless chapters are
 * drawn there.
 */
function drawTrail(surface: CanvasRenderingContext2D, picture: TrailPicture, area: TrailArea, hasKites = true): void {
  const { trail } = picture;
  if (trail.lengthSamples === 0) return;
  drawVoice(surface, picture, area);
  const foot = area.top + area.height;
  surface.fillStyle = area.color('line');
  surface.fillRect(0, foot - TICK_HEIGHT - 2, area.width, 1);
  const ground = area.color('sail');
  const ticks = new FillRun(surface);
  let page: PageId | null = null;
  const first = firstAtOrAfter(trail.marks, area.fromSamples - LONGEST_STROKE_SAMPLES);
  for (let i = first; i < trail.marks.length && trail.marks[i].atSamples <= area.toSamples; i++) {
    const mark = trail.marks[i];
    const x = Math.round(xIn(area, mark.atSamples));
    if (mark.kind === 'ink') {
      const end = Math.round(xIn(area, mark.atSamples + mark.stroke.points.lengthMs * SAMPLES_PER_MS));
      ticks.add(
        legibleInk(mark.stroke.pen.color, ground),
        x,
        Math.max(x + 2, end),
        foot - TICK_HEIGHT + 1,
        TICK_HEIGHT - 3,
      );
    } else if (mark.kind === 'turn' && hasKites) {
      if (page !== null && mark.page !== page) drawKite(surface, x, area.top, area);
      page = mark.page;
    }
  }
  ticks.end();
}

function drawVoice(surface: CanvasRenderingContext2D, { programme, peaks }: TrailPicture, area: TrailArea): void {
  const placed = placeSegments(programme).filter((one) => one.endSamples > one.startSamples);
  const middle = Math.round(area.top + (area.height - TICK_HEIGHT + KITE_SIZE * 2) / 2);
  const reach = middle - area.top - KITE_SIZE * 2 - 2;
  const samplesPerPx = (area.toSamples - area.fromSamples) / area.width;
  const voiceColor = area.color('tail');
  const ribbon = new FillRun(surface);
  let n = 0;
  for (let x = 0; x < area.width; x++) {
    const at = Math.floor(area.fromSamples + x * samplesPerPx);
    while (n + 1 < placed.length && placed[n].endSamples <= at) n++;
    const voice = placed[n] && voiceOf(placed[n].segment);
    const take = voice ? peaks.get(voice.take) : undefined;
    const from = voice ? voice.fromSamples + at - placed[n].startSamples : 0;
    const half = Math.max(1, Math.round((take ? loudnessSeen(take, from, samplesPerPx) : 0) * reach));
    ribbon.add(voiceColor, x, x + 1, middle - half, half * 2);
  }
  ribbon.end();
}

/** Where a pixel stands for more than a syllable, the highest peaks alone would all be the same: then it is how they are on the whole. */
const SYLLABLE_SAMPLES = 200 * SAMPLES_PER_MS;
const MOST_LOOKS = 8;

/** How loud a stretch is seen to be, 0 to 1. */
function loudnessSeen(take: PeakLevels, fromSamples: number, lengthSamples: number): number {
  const looks = Math.max(1, Math.min(MOST_LOOKS, Math.round(lengthSamples / SYLLABLE_SAMPLES)));
  const step = lengthSamples / looks;
  let sum = 0;
  for (let n = 0; n < looks; n++) {
    // The square root lets quiet speech be seen beside loud.
    sum += Math.sqrt(take.highest(fromSamples + n * step, fromSamples + (n + 1) * step));
  }
  return sum / looks;
}

function drawKite(surface: CanvasRenderingContext2D, x: number, top: number, { color }: TrailArea): void {
  surface.fillStyle = color('kite-deep');
  surface.beginPath();
  surface.moveTo(x, top);
  surface.lineTo(x + KITE_SIZE * 0.8, top + KITE_SIZE * 0.8);
  surface.lineTo(x, top + KITE_SIZE * 2.2);
  surface.lineTo(x - KITE_SIZE * 0.8, top + KITE_SIZE * 0.8);
  surface.fill();
}

/** What is different about how a part plays, in a word. */
function signOf(segment: Segment): string {
  if (segment.kind === 'still') return 'still';
  if (isSilenced(segment)) return 'silent';
  return segment.kind === 'play' && segment.pace !== 1 ? `${segment.pace} ×` : '';
}

/** Draws where segments meet, and which parts play quicker, stand still, or were silenced. */
function drawSegments(surface: CanvasRenderingContext2D, programme: Programme, area: TrailArea): void {
  const placed = placeSegments(programme).filter((one) => one.endSamples > one.startSamples);
  const splices = new Path2D();
  for (const [i, { segment, startSamples, endSamples }] of placed.entries()) {
    if (endSamples < area.fromSamples || startSamples > area.toSamples) continue;
    const x = xIn(area, startSamples);
    const width = xIn(area, endSamples) - x;
    const sign = signOf(segment);
    if (sign) {
      surface.fillStyle = 'rgb(233 196 106 / 22%)';
      surface.fillRect(x, area.top, width, area.height - TICK_HEIGHT - 2);
      write(surface, sign, { x: x + 4, y: area.top + 13, most: width - 8, size: 13, color: area.color('ink-soft') });
    }
    if (i === 0) continue;
    splices.moveTo(Math.round(x) + 0.5, area.top);
    splices.lineTo(Math.round(x) + 0.5, area.top + area.height);
  }
  surface.strokeStyle = area.color('ink-soft');
  surface.setLineDash([3, 3]);
  surface.stroke(splices);
  surface.setLineDash([]);
}

const STEPS_SECONDS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 30, 60, 120, 300, 600, 1200];
const LEAST_STEP_PX = 76;

/** Draws the times along the trail, with its chapters above them. */
function drawRuler(surface: CanvasRenderingContext2D, chapters: readonly PlacedChapter[], area: TrailArea): void {
  const samplesPerPx = (area.toSamples - area.fromSamples) / area.width;
  const step = STEPS_SECONDS.find((one) => (one * 1000 * SAMPLES_PER_MS) / samplesPerPx >= LEAST_STEP_PX) ?? 3600;
  const stepSamples = step * 1000 * SAMPLES_PER_MS;
  const foot = area.top + area.height;
  surface.font = `12px ${FONT}`;
  for (let n = Math.ceil(area.fromSamples / stepSamples); n * stepSamples <= area.toSamples; n++) {
    const x = xIn(area, n * stepSamples);
    surface.fillStyle = area.color('line');
    surface.fillRect(x, foot - 6, 1, 6);
    const seconds = n * step;
    const text =
      step < 1 ? `${clockText(n * stepSamples)}.${Math.round(seconds * 10) % 10}` : clockText(n * stepSamples);
    surface.fillStyle = area.color('ink-soft');
    surface.fillText(text, x + 4, foot - 1);
  }
  for (const [i, { startSamples, title }] of chapters.entries()) {
    const x = xIn(area, startSamples);
    const next = i + 1 < chapters.length ? xIn(area, chapters[i + 1].startSamples) : area.width;
    if (next < 0 || x > area.width) continue;
    const seen = Math.max(0, x);
    if (x >= 0) drawKite(surface, x, area.top + 1, area);
    const indent = x >= 0 ? KITE_SIZE + 5 : 4;
    write(surface, title, {
      x: seen + indent,
      y: area.top + 12,
      most: next - seen - indent - 6,
      size: 14,
      color: area.color('ink'),
    });
  }
}

/** Draws captions where they are read; those still to be filled are empty. */
function drawCues(surface: CanvasRenderingContext2D, cues: readonly Cue[], area: TrailArea): void {
  const narrow = new FillRun(surface);
  for (const { startSamples, endSamples, text } of cues) {
    if (endSamples < area.fromSamples || startSamples > area.toSamples) continue;
    const x = xIn(area, startSamples);
    const width = Math.max(2, xIn(area, endSamples) - x - 1);
    // Of captions that are narrower than a letter, only where they are is seen.
    if (width < 4) {
      const from = Math.round(x);
      narrow.add(
        text === '' ? area.color('straw-pale') : area.color('straw'),
        from,
        from + Math.round(width),
        area.top,
        area.height - 1,
      );
      continue;
    }
    narrow.end();
    surface.fillStyle = text === '' ? area.color('paper') : area.color('straw-pale');
    surface.strokeStyle = area.color('straw');
    surface.beginPath();
    surface.roundRect(x + 0.5, area.top + 0.5, width, area.height - 2, 4);
    surface.fill();
    surface.stroke();
    const seen = Math.max(0, x);
    write(surface, text.replaceAll('\n', ' '), {
      x: seen + 5,
      y: area.top + area.height - 7,
      most: x + width - seen - 8,
      size: 13,
      color: area.color('ink'),
    });
  }
  narrow.end();
}

/** Writes as much of a text as there is room for. */
function write(
  surface: CanvasRenderingContext2D,
  text: string,
  { x, y, most, size, color }: { x: number; y: number; most: number; size: number; color: string },
): void {
  if (most < size) return;
  surface.font = `${size}px ${FONT}`;
  surface.fillStyle = color;
  const width = surface.measureText(text).width;
  if (width <= most) return surface.fillText(text, x, y);
  const letters = Math.floor((text.length * (most - size)) / width);
  if (letters >= 3) surface.fillText(`${text.slice(0, letters).trimEnd()}…`, x, y);
}
