import type { CaptionId } from '../lesson/ids';
import { placeCaptions, spansBetween, type TakeSpan } from './captions';
import type { Stretch } from './edit';
import type { Programme } from './programme';

/**
 * A part of a programme, by the stretches of takes that are heard in it: it stays the same part when the programme around it is
 * edited.
 */
export type Part = readonly TakeSpan[];

/** The part that plays between two moments, in samples of the programme. */
export const partBetween = (programme: Programme, { fromSamples, toSamples }: Stretch): Part =>
  spansBetween(programme, fromSamples, toSamples);

/** Where a part plays, from its first moment to its last, or `null` where nothing of it is left. It is placed as captions are. */
export function placePart(programme: Programme, part: Part): Stretch | null {
  const cues = placeCaptions(programme, [{ id: 'part' as CaptionId, text: '', spans: part }]);
  if (cues.length === 0) return null;
  return { fromSamples: cues[0].startSamples, toSamples: Math.max(...cues.map(({ endSamples }) => endSamples)) };
}
