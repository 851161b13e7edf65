import { z } from 'zod';
import { teacherName } from './account';
import { teacherId } from './primitives';

const MOST_COLLEAGUES = 20;

/** Whose a lesson is, and who works on it with them. */
export const together = z.object({ owner: teacherName, colleagues: z.array(teacherName) });
export type Together = z.output<typeof together>;

/** Those who are to work on a lesson beside its owner. */
export const workingWith = z.object({
  colleagues: z.array(teacherId).max(MOST_COLLEAGUES, `At most ${MOST_COLLEAGUES} colleagues work on a lesson.`),
});
