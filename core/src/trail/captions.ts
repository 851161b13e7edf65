import type { CaptionId, TakeId } from '../lesson/ids';
import type { TimedText } from '../formats/timed-text';
import { msToSamples, samplesToMs } from './clock';
import { firstIndex } from './first-index';
import { isSilenced, placeSegments, takesTime, voiceOf, type PlacedSegment, type Programme } from './programme';

/** A stretch of a take. */
export interface TakeSpan {
  take: TakeId;
  fromSamples: number;
  toSamples: number;
}

/**
 * Words that are spoken. They belong to the voice, not to a time of the programme: whatever is cut, moved or repeated, they
 * are read when they are heard.
 */
export interface Caption {
  id: CaptionId;
  text: string;
  /** Where they are heard, in the order of hearing. */
  spans: readonly TakeSpan[];
}

/** A caption where it is read. */
export interface Cue {
  id: CaptionId;
  startSamples: number;
  endSamples: number;
  text: string;
}

/** What was left of a caption is read as one where so little is missing in between. */
const LARGEST_GAP_SAMPLES = msToSamples(500);
/** Nobody reads what is shown for so short a time. */
const SHORTEST_SAMPLES = msToSamples(200);

/** What a segment lets be heard, or silently shows: a stretch of a take, that goes by at a pace. */
interface Heard extends TakeSpan {
  placed: PlacedSegment;
  pace: number;
}

/** When it is heard in the programme. */
interface Span {
  start: number;
  end: number;
}

function heardIn(programme: Programme): Heard[] {
  return placeSegments(programme).flatMap((placed) => {
    const { segment, startSamples, endSamples } = placed;
    if (!takesTime(segment) || startSamples === endSamples || isSilenced(segment)) return [];
    const heard = voiceOf(segment);
    if (heard) return [{ placed, pace: 1, ...heard, toSamples: heard.fromSamples + endSamples - startSamples }];
    if (segment.kind === 'still') return [];
    const { take, fromSamples, toSamples, pace } = segment;
    return [{ placed, pace, take, fromSamples, toSamples }];
  });
}

/** All that is heard of one take. */
class HeardOfTake {
  private readonly heard: readonly Heard[];
  /** How far into the take each stretch, or one before it, reaches. */
  private readonly reached: readonly number[];

  constructor(heard: readonly Heard[]) {
    this.heard = heard.toSorted((a, b) => a.fromSamples - b.fromSamples);
    let furthest = 0;
    this.reached = this.heard.map(({ toSamples }) => (furthest = Math.max(furthest, toSamples)));
  }

  /** Adds when a span of the take is heard in the programme. */
  addPiecesOf(span: TakeSpan, pieces: Span[]): void {
    const first = firstIndex(this.heard.length, (i) => this.reached[i] > span.fromSamples);
    for (let i = first; i < this.heard.length && this.heard[i].fromSamples < span.toSamples; i++) {
      const { placed, fromSamples, toSamples, pace } = this.heard[i];
      const from = Math.max(fromSamples, span.fromSamples);
      const to = Math.min(toSamples, span.toSamples);
      if (to <= from) continue;
      const at = (samples: number) =>
        Math.min(placed.endSamples, placed.startSamples + Math.round((samples - fromSamples) / pace));
      pieces.push({ start: at(from), end: at(to) });
    }
  }
}

/** The captions as they are read in a programme, in order. What is not heard in it is left out. */
export function placeCaptions(programme: Programme, captions: readonly Caption[]): Cue[] {
  const byTake = new Map<TakeId, Heard[]>();
  for (const heard of heardIn(programme)) {
    const present = byTake.get(heard.take);
    if (present) present.push(heard);
    else byTake.set(heard.take, [heard]);
  }
  const heardOf = new Map([...byTake].map(([take, heard]) => [take, new HeardOfTake(heard)]));
  const cues: Cue[] = [];
  for (const { id, text, spans } of captions) {
    const pieces: Span[] = [];
    let whole = 0;
    for (const span of spans) {
      heardOf.get(span.take)?.addPiecesOf(span, pieces);
      whole += span.toSamples - span.fromSamples;
    }
    const shortest = Math.min(SHORTEST_SAMPLES, whole / 2);
    for (const { start, end } of merged(pieces)) {
      if (end - start >= shortest) cues.push({ id, text, startSamples: start, endSamples: end });
    }
  }
  return cues.sort((a, b) => a.startSamples - b.startSamples || a.endSamples - b.endSamples);
}

function merged(pieces: Span[]): Span[] {
  if (pieces.length < 2) return pieces;
  const result: Span[] = [];
  for (const { start, end } of pieces.sort((a, b) => a.start - b.start)) {
    const last = result.at(-1);
    if (last && start - last.end <= LARGEST_GAP_SAMPLES) last.end = Math.max(last.end, end);
    else result.push({ start, end });
  }
  return result;
}

/** The captions of a programme that say something, where they are read. */
export const filledCues = (programme: Programme, captions: readonly Caption[]): Cue[] =>
  placeCaptions(programme, captions).filter(({ text }) => text !== '');

/** A cue as captions are written. */
export const timedText = ({ startSamples, endSamples, text }: Cue): TimedText => ({
  startMs: samplesToMs(startSamples),
  endMs: samplesToMs(endSamples),
  text,
});

/** The stretches of takes that are heard between two moments of a programme: what a caption there belongs to. */
export function spansBetween(programme: Programme, fromSamples: number, toSamples: number): TakeSpan[] {
  return heardIn(programme).flatMap(({ placed, take, fromSamples: begins, pace }) => {
    const from = Math.max(placed.startSamples, fromSamples);
    const to = Math.min(placed.endSamples, toSamples);
    if (to <= from) return [];
    const at = (samples: number) => begins + Math.round((samples - placed.startSamples) * pace);
    return [{ take, fromSamples: at(from), toSamples: at(to) }];
  });
}
