import { z } from 'zod';
import { classId, lessonId, samples, takeId, text } from './primitives';

export const questionId = z.string().regex(/^[A-Za-z0-9_-]{21}$/, 'This is not a question.');

/** What somebody who watches asks, at a moment of what they watch. */
export const newQuestion = z.object({
  id: questionId,
  atSamples: samples,
  question: text.min(1, 'Ask something.').max(500, 'Use at most 500 letters.'),
});
export type NewQuestion = z.output<typeof newQuestion>;

/** An empty one takes the answer back. */
export const newAnswer = z.object({ answer: text.max(2000, 'Use at most 2,000 letters.') });

/** A question as the lesson's teacher sees it. */
export const question = z.object({
  id: questionId,
  /** The moment at which it was asked, wherever that plays now. */
  moment: z.object({ take: takeId, atSamples: samples }),
  question: z.string(),
  askedAt: z.string(),
  /** By which link, and of which class that is. */
  link: z.string(),
  schoolClass: classId.nullable(),
  /** In words; `null` where nobody has answered so. */
  answer: z.string().nullable(),
  /** The lesson in which it is answered by a recording, and by which link that is watched: `null` until it is shared. */
  recording: z.object({ lesson: lessonId, token: z.string().nullable() }).nullable(),
});
export type Question = z.output<typeof question>;

/** Whether there is something for whoever asked. */
export const isAnswered = ({ answer, recording }: Pick<Question, 'answer' | 'recording'>): boolean =>
  answer !== null || (recording !== null && recording.token !== null);

/** Where a question is answered by a recording. */
export const recordedAnswer = z.object({ lesson: lessonId });
