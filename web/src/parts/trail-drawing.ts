import { SAMPLES_PER_MS } from '@kite-trail/core/trail/clock';
import type { PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { SAMPLES_PER_PEAK } from '@kite-trail/core/sound/peaks';
import { placeSegments, toTake, voiceOf, type Programme } from '@kite-trail/core/trail/programme';
import type { Trail } from '@kite-trail/core/trail/trail';

export interface TrailPicture {
  programme: Programme;
  trail: Trail;
  peaks: ReadonlyMap<TakeId, Uint8Array>;
}

const VOICE = '#12776f';
const KITE = '#b8371d';
const LINE = '#ddd3bf';
const TICK_HEIGHT = 13;
const KITE_SIZE = 6;

/** Draws voice as a ribbon, ink as ticks in its own colours below it, and page turns as kites above. */
export function drawTrail(
  surface: CanvasRenderingContext2D,
  { programme, trail, peaks }: TrailPicture,
  size: { width: number; height: number },
): void {
  surface.clearRect(0, 0, size.width, size.height);
  if (trail.lengthSamples === 0) return;
  const xOf = (samples: number) => (samples / trail.lengthSamples) * size.width;
  const middle = (size.height - TICK_HEIGHT + KITE_SIZE * 2) / 2;
  const reach = middle - KITE_SIZE * 2 - 2;
  drawVoice(surface, programme, peaks, { xOf, middle, reach, ...size, length: trail.lengthSamples });
  surface.fillStyle = LINE;
  surface.fillRect(0, size.height - TICK_HEIGHT - 2, size.width, 1);
  let page: PageId | null = null;
  for (const mark of trail.marks) {
    const x = xOf(mark.atSamples);
    if (mark.kind === 'ink') {
      surface.fillStyle = mark.stroke.pen.color;
      const width = Math.max(1.5, xOf(mark.stroke.points.lengthMs * SAMPLES_PER_MS));
      surface.fillRect(x, size.height - TICK_HEIGHT + 1, width, TICK_HEIGHT - 3);
    } else if (mark.kind === 'turn') {
      if (page !== null && mark.page !== page) drawKite(surface, x);
      page = mark.page;
    }
  }
}

function drawVoice(
  surface: CanvasRenderingContext2D,
  programme: Programme,
  peaks: TrailPicture['peaks'],
  area: { xOf: (samples: number) => number; middle: number; reach: number; width: number; length: number },
): void {
  const placed = placeSegments(programme);
  const samplesPerPx = area.length / area.width;
  surface.fillStyle = VOICE;
  for (let x = 0; x < area.width; x++) {
    const found = toTake(placed, Math.floor(x * samplesPerPx));
    const voice = found && voiceOf(found.placed.segment);
    const take = voice ? peaks.get(voice.take) : undefined;
    let height = 0;
    if (take && voice && found) {
      const voiceSamples = voice.fromSamples + x * samplesPerPx - found.placed.startSamples;
      const from = Math.floor(voiceSamples / SAMPLES_PER_PEAK);
      const to = Math.max(from + 1, Math.floor((voiceSamples + samplesPerPx) / SAMPLES_PER_PEAK));
      for (let i = from; i < to && i < take.length; i++) height = Math.max(height, take[i]);
    }
    // The square root lets quiet speech be seen beside loud.
    const half = Math.max(0.75, Math.sqrt(height / 255) * area.reach);
    surface.fillRect(x, area.middle - half, 1, half * 2);
  }
}

function drawKite(surface: CanvasRenderingContext2D, x: number): void {
  surface.fillStyle = KITE;
  surface.beginPath();
  surface.moveTo(x, 0);
  surface.lineTo(x + KITE_SIZE * 0.8, KITE_SIZE * 0.8);
  surface.lineTo(x, KITE_SIZE * 2.2);
  surface.lineTo(x - KITE_SIZE * 0.8, KITE_SIZE * 0.8);
  surface.fill();
}
