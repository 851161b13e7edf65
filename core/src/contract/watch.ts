import { z } from 'zod';
import { classColor } from './class';
import { base64, promptId, samples } from './primitives';
import { questionId } from './question';

const asked = <Id extends z.ZodType>(id: Id) => z.object({ id, atSamples: samples, question: z.string() });

/** What the watch page is told before it plays. */
export const watch = z.object({
  /** Names what is played, in the addresses of all that belongs to it. */
  publication: z.string(),
  title: z.string(),
  lengthSamples: samples,
  pageCount: z.number(),
  hasSound: z.boolean(),
  hasCaptions: z.boolean(),
  /** Sound and text may be saved. */
  mayDownload: z.boolean(),
  /** How loud the voice is from step to step, a byte each; empty where it is not known. */
  loudness: base64,
  chapters: z.array(z.object({ startSamples: samples, title: z.string() })),
  /** Where it halts with a question; the teacher's answer is empty where that is left open. */
  prompts: z.array(asked(promptId).extend({ answer: z.string() })),
  /** A question may be left at a moment. */
  mayAsk: z.boolean(),
  /** What others have asked, and the teacher has answered: in words, by a recording, of which the link's token is said, or both. */
  questions: z.array(asked(questionId).extend({ answer: z.string().nullable(), recording: z.string().nullable() })),
  /** It is counted, in sums alone, how this is watched. */
  isCounted: z.boolean(),
});
export type Watch = z.output<typeof watch>;

/** A class page: all that is shared with a class, in the order in which it is taught. */
export const classPage = z.object({
  name: z.string(),
  color: classColor,
  lessons: z.array(
    z.object({
      token: z.string(),
      title: z.string(),
      lengthSamples: samples,
      /** When what is played was shared. */
      sharedAt: z.string(),
      isLocked: z.boolean(),
    }),
  ),
});
export type ClassPage = z.output<typeof classPage>;

/** What every failed request answers. */
export const problem = z.object({ code: z.string(), message: z.string() });
export type Problem = z.output<typeof problem>;
