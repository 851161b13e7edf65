import { z } from 'zod';
import { classId, lessonId, line, teacherId } from './primitives';

/** By which a class is told from the others at a glance; the look says what they look like. */
export const CLASS_COLORS = ['kite', 'tail', 'straw', 'sea', 'heather', 'kelp', 'slate', 'coral'] as const;
export type ClassColor = (typeof CLASS_COLORS)[number];
export const classColor = z.enum(CLASS_COLORS);

const className = line.min(1, 'Give the class a name.').max(60, 'Use at most 60 letters.');

/** What a teacher says about a class. */
export const classAbout = z.object({
  name: className,
  color: classColor,
  /** The lesson whose picture stands for the class; `null` for the first of its lessons. */
  cover: lessonId.nullable(),
  /** It is taught no more: it stands apart, with all its lessons. */
  isArchived: z.boolean(),
});

export const newClass = classAbout.pick({ name: true, color: true });

/** A class with its lessons, in the order in which they are taught. */
export const schoolClass = z.object({
  id: classId,
  ...classAbout.shape,
  lessons: z.array(lessonId),
  /** By which its page is found; `null` while it has none. */
  pageToken: z.string().nullable(),
});

/** As many lessons as can be placed, binned and so on at once. */
export const MOST_AT_ONCE = 1000;
const lessons = z.array(lessonId).min(1, 'Choose a lesson first.').max(MOST_AT_ONCE, 'Choose at most 1,000 lessons.');

/**
 * Puts lessons into a class, before one of its own or at its end; takes them out of the class they came from. Without a class they
 * came from they are in one more; without one they go to they are in one less.
 */
export const placing = z.object({
  lessons,
  from: classId.nullable(),
  to: classId.nullable(),
  before: lessonId.nullable(),
});

/** The order in which a teacher's classes stand; those not named follow. */
export const classOrder = z.object({ classes: z.array(classId).max(MOST_AT_ONCE) });

/** Lessons that go into the bin, or come back. */
export const binning = z.object({ lessons, isBinned: z.boolean() });

/** Lessons that become another teacher's. */
export const handing = z.object({ lessons, to: teacherId });

export const favouring = z.object({ lessons, isFavourite: z.boolean() });

export type SchoolClass = z.output<typeof schoolClass>;
export type ClassAbout = z.output<typeof classAbout>;
export type Placing = z.output<typeof placing>;
