import { z } from 'zod';
import { lessonAbout } from './lesson';
import { lessonId, samples } from './primitives';

/** A lesson that its teacher lists for all teachers of the school. */
export const listedLesson = z.object({
  /** Of the link by which it is listed. */
  token: z.string(),
  /** What it leads to; `null` where nothing of it is seen without a passcode. */
  publication: z.string().nullable(),
  id: lessonId,
  title: z.string(),
  about: lessonAbout,
  teacher: z.string(),
  isOwn: z.boolean(),
  isFavourite: z.boolean(),
  mayCopy: z.boolean(),
  isLocked: z.boolean(),
  lengthSamples: samples,
  sharedAt: z.string(),
});
export type ListedLesson = z.output<typeof listedLesson>;

export const MOST_LISTED = 1000;

export const favouringListed = z.object({ isFavourite: z.boolean() });
