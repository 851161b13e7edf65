import { z } from 'zod';
import { CODE_LETTERS } from './live';
import { line, studentId } from './primitives';

/** As many names as a class has at most, and as can be written down at once. */
export const MOST_STUDENTS = 200;

/** Sixteen of 31 letters: 79 random bits, which nobody guesses (NIST SP 800-63B-4, section 3.1.2, asks for 64 where tries are limited). */
export const STUDENT_KEY_LENGTH = 16;

/** By which a student is known, as it is read from a slip of paper and typed: in letters of either size, with gaps. */
export const studentKey = z
  .string()
  .overwrite((typed) => typed.replace(/[\s-]/g, '').toUpperCase())
  .regex(new RegExp(`^[${CODE_LETTERS}]{${STUDENT_KEY_LENGTH}}$`), 'Your key has sixteen letters and digits.');

/** A key as it is written down: in fours, which are easier to copy. */
export const spacedKey = (key: string): string => key.match(/.{1,4}/g)!.join(' ');

export const studentName = line.min(1, 'Write a name.').max(60, 'Use at most 60 letters.');

/** Who is in a class: the names the class knows them by, such as a list that was pasted. */
export const newStudents = z.object({
  names: z
    .array(studentName)
    .min(1, 'Write a name.')
    .max(MOST_STUDENTS, `A class has room for ${MOST_STUDENTS} names.`),
});

export const renameStudent = z.object({ name: studentName });

/** A student, as their class's teacher sees them. */
export const student = z.object({
  id: studentId,
  name: z.string(),
  key: z.string(),
  /** When they were last here; `null` where they never were. */
  seenAt: z.iso.datetime().nullable(),
});
export type Student = z.output<typeof student>;
export const students = z.array(student);

/** How long what students made is kept after their class has ended. */
export const studentsKept = z.object({
  keptDays: z
    .int('Write whole days.')
    .min(30, 'Keep it for thirty days at least.')
    .max(3650, 'Keep it for ten years at most.'),
});

/** Somebody who does one task alone, under a name they write. */
export const newGuest = z.object({ name: studentName });

/** Whoever comes with a key. */
export const studentDoor = z.object({ key: studentKey });

/** Who a student is to the device they use. */
export const studentSelf = z.object({
  id: studentId,
  name: z.string(),
  /** What their class is called. */
  schoolClass: z.string(),
});
export type StudentSelf = z.output<typeof studentSelf>;
