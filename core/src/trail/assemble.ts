import { joinBytes } from '../formats/bytes';
import type { TakePart } from '../formats/take-part';
import type { Mark } from '../lesson/mark';
import { joinHeard, type HeardVoice } from '../sound/profile';
import { sortMarks } from './timeline';

/** A take put together from its parts. */
export interface AssembledTake {
  lengthSamples: number;
  marks: Mark[];
  sound: Uint8Array<ArrayBuffer>;
  /** What was heard of the voice as far as parts tell. */
  heard: HeardVoice;
}

/**
 * Puts a take together from its parts in order. A take that was never ended properly keeps the ink that was being
 * written in its last part.
 */
export function assembleTake(parts: readonly TakePart[], endedProperly: boolean): AssembledTake {
  const lengthSamples = parts.at(-1)?.toSamples ?? 0;
  const marks = parts.flatMap((part) => part.marks);
  if (!endedProperly) marks.push(...(parts.at(-1)?.unfinished ?? []));
  return {
    lengthSamples,
    marks: sortMarks(marks),
    sound: joinBytes(parts.map((part) => part.sound)),
    heard: joinHeard(parts.map((part) => part.heard)),
  };
}
