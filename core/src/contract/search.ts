import { z } from 'zod';
import { lessonId, samples } from './primitives';

export const FOUND_KINDS = ['title', 'tag', 'description', 'subject', 'caption', 'text'] as const;

/** A place of a lesson where what was looked for stands. */
const place = z.object({
  kind: z.enum(FOUND_KINDS),
  /** What stands there, or what of it is around the first of the words. */
  text: z.string(),
  /** When it is said, or is first on the page, in the lesson's time; `null` where it has none. */
  atSamples: samples.nullable(),
  /** The number of the page it stands on, from 1; `null` where that is not known. */
  page: z.number().int().nullable(),
});

export const found = z.object({
  /** The lessons that have every word, those where it matters most first. */
  lessons: z.array(z.object({ id: lessonId, places: z.array(place) })),
  /** How many lessons have been changed and were not read yet: to ask again finds what is in them. */
  unread: z.number().int(),
});

export const asking = z.string().max(200, 'Look for at most 200 letters.');

export type Found = z.output<typeof found>;
export type FoundPlace = z.output<typeof place>;
export type FoundKind = FoundPlace['kind'];
