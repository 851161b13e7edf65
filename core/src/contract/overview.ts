import { z } from 'zod';
import { lessonId, samples, takeId } from './primitives';

/** A recording among all of a teacher's. */
export const recording = z.object({
  id: takeId,
  lesson: lessonId,
  /** What the lesson is called. */
  title: z.string(),
  /** Empty where its teacher has given it none. */
  name: z.string(),
  lengthSamples: samples,
  startedAt: z.string(),
  /** Whether viewers get any of it. */
  isPlayed: z.boolean(),
  isBinned: z.boolean(),
  /** The addresses at which the lesson can be watched. */
  links: z.array(z.string()),
});

const bytes = z.number().int().min(0);

/** What takes up room at the school, and what could go. */
export const space = z.object({
  /** All that is the teacher's, and of it what lies in the bin: lessons, and recordings of others. */
  ownBytes: bytes,
  binnedBytes: bytes,
  /** All that the school keeps, and how much more there is room for; `null` where that is not known. */
  schoolBytes: bytes,
  freeBytes: bytes.nullable(),
  /** What would go with each lesson, those that take most first. */
  lessons: z.array(z.object({ id: lessonId, title: z.string(), bytes, isBinned: z.boolean() })),
});

export type RecordingSummary = z.output<typeof recording>;
export type Space = z.output<typeof space>;
