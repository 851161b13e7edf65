import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { HeardVoice } from '@kite-trail/core/sound/profile';
import { assembleTake } from '@kite-trail/core/trail/assemble';
import type { Take } from '@kite-trail/core/trail/take';

/**
 * A take from the parts that are kept here, with its sound, and what was heard of its voice.
 * @param isWhole it ended properly; one that broke off has its unfinished strokes cut short
 */
export function takeFrom(
  id: TakeId,
  parts: readonly Uint8Array[],
  isWhole: boolean,
): { take: Take; sound: Blob | null; heard: HeardVoice } {
  const { lengthSamples, marks, sound, heard } = assembleTake(parts.map(decodeTakePart), isWhole);
  const take = { id, lengthSamples, marks, sound: null };
  return { take, sound: sound.length > 0 ? new Blob([sound], { type: 'audio/ogg' }) : null, heard };
}
