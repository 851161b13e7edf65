import { SAMPLES_PER_MS } from '@kite-trail/core/trail/clock';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { PeakLevels } from '@kite-trail/core/sound/peaks';
import { ribbonOf } from '@kite-trail/core/sound/ribbon';
import type { Cue } from '@kite-trail/core/trail/captions';
import type { PlacedChapter } from '@kite-trail/core/trail/chapters';
import type { PlacedPrompt } from '@kite-trail/core/trail/prompts';
import { isSilenced, placeSegments, type Programme, type Segment } from '@kite-trail/core/trail/programme';
import type { Trail } from '@kite-trail/core/trail/trail';
import { clockText } from '../look/time';
import { FillRun } from '../playback/fill-run';
import { drawKite, drawMarks, drawVoice, KITE_SIZE, TICK_HEIGHT, xIn, type TrailArea } from '../playback/trail-lanes';

export interface TrailPicture {
  programme: Programme;
  trail: Trail;
  peaks: ReadonlyMap<TakeId, PeakLevels>;
}

/** What an editor of the trail shows beside voice and ink. */
export interface TrailLanes {
  chapters: readonly PlacedChapter[];
  cues: readonly Cue[];
  prompts: readonly PlacedPrompt[];
}

const FONT = "'Atkinson Hyperlegible Next Variable', sans-serif";
/** How high the ruler of an editor is, and the lane for captions at its foot, in CSS pixels. */
export const RULER_PX = 32;
const CUES_PX = 26;
const FLAG_PX = 17;

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
  drawPrompts(surface, lanes.prompts, inner);
  drawCues(surface, lanes.cues, { ...area, top: foot + 2, height: CUES_PX - 2 });
}

/** Draws voice, ink and page turns; where chapters are drawn there are no turns. */
function drawTrail(surface: CanvasRenderingContext2D, picture: TrailPicture, area: TrailArea, hasKites = true): void {
  const { programme, peaks, trail } = picture;
  if (trail.lengthSamples === 0) return;
  drawVoice(surface, ribbonOf(programme, peaks, area, Math.ceil(area.width)), area);
  drawMarks(surface, trail.marks, area, hasKites);
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

/** Draws where playback halts with a question: a line with a flag that asks. */
function drawPrompts(surface: CanvasRenderingContext2D, prompts: readonly PlacedPrompt[], area: TrailArea): void {
  for (const { atSamples } of prompts) {
    const x = xIn(area, atSamples);
    if (x < 0 || x > area.width) continue;
    const flag = Math.min(x, area.width - FLAG_PX);
    surface.fillStyle = area.color('tail');
    surface.fillRect(Math.min(x, area.width - 2), area.top, 2, area.height);
    surface.fillRect(flag, area.top, FLAG_PX, FLAG_PX);
    surface.font = `700 13px ${FONT}`;
    surface.fillStyle = area.color('on-tail');
    surface.fillText('?', flag + 5, area.top + 13);
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
