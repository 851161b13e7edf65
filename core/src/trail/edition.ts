import type { TakeId } from '../lesson/ids';
import type { Caption } from './captions';
import type { Chapter } from './chapters';
import type { InkEdit } from './ink-edits';
import { placeTake, useTake, type PlannedTake } from './plan';
import type { Programme } from './programme';
import type { Prompt } from './prompts';

/** How the voice is treated. */
export interface SoundChoice {
  /** Loudness is evened out to what viewers are used to. */
  isEvened: boolean;
  /** Steady noise is taken out. */
  isQuieted: boolean;
}

/** All that a teacher decides about what viewers get. Every edit makes a new one; takes stay as they are. */
export interface Edition {
  programme: Programme;
  inkEdits: readonly InkEdit[];
  chapters: readonly Chapter[];
  captions: readonly Caption[];
  prompts: readonly Prompt[];
  sound: SoundChoice;
}

export const NOTHING_EDITED: Edition = {
  programme: [],
  inkEdits: [],
  chapters: [],
  captions: [],
  prompts: [],
  sound: { isEvened: true, isQuieted: false },
};

/**
 * The edition as it was recorded: every take where it was planned to play, and its ink as it was written. Chapters,
 * captions and prompts stay; they belong to what was recorded.
 * @param takes in the order in which they were recorded
 * @param binned takes that are not to play
 */
export function startedOver(
  edition: Edition,
  takes: readonly PlannedTake[],
  binned: ReadonlySet<TakeId> = new Set(),
): Edition {
  const programme = takes
    .filter(({ id, lengthSamples }) => lengthSamples > 0 && !binned.has(id))
    .reduce<Programme>((before, take) => placeTake(before, take) ?? useTake(before, take.id, takes), []);
  return { ...edition, programme, inkEdits: [] };
}
