import type { TakePart } from '../formats/take-part';
import type { Mark } from '../lesson/mark';
import { sortMarks } from './timeline';

/** A take put together from its parts. */
export interface AssembledTake {
  lengthSamples: number;
  marks: Mark[];
  sound: Uint8Array<ArrayBuffer>;
}

/**
 * Puts a take together from its parts in order. A take that was never ended properly keeps the ink that was being
 * written in its last part.
 */
export function assembleTake(parts: readonly TakePart[], endedProperly: boolean): AssembledTake {
  const lengthSamples = parts.at(-1)?.toSamples ?? 0;
  const marks = parts.flatMap((part) => part.marks);
  if (!endedProperly) marks.push(...(parts.at(-1)?.unfinished ?? []));
  return { lengthSamples, marks: sortMarks(marks), sound: joinBytes(parts.map((part) => part.sound)) };
}

export function joinBytes(blocks: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const joined = new Uint8Array(blocks.reduce((sum, block) => sum + block.length, 0));
  let at = 0;
  for (const block of blocks) {
    joined.set(block, at);
    at += block.length;
  }
  return joined;
}
