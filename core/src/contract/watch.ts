import { z } from 'zod';
import { samples } from './primitives';

/** What the watch page is told before it plays. */
export const watch = z.object({
  /** Names what is played, in the addresses of all that belongs to it. */
  publication: z.string(),
  title: z.string(),
  lengthSamples: samples,
  pageCount: z.number(),
  hasSound: z.boolean(),
  hasCaptions: z.boolean(),
  chapters: z.array(z.object({ startSamples: samples, title: z.string() })),
});
export type Watch = z.output<typeof watch>;

/** What every failed request answers. */
export const problem = z.object({ code: z.string(), message: z.string() });
export type Problem = z.output<typeof problem>;
