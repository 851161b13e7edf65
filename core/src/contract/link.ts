import { z } from 'zod';
import { part } from './edition';
import { classId, line, samples } from './primitives';

const PASSCODE = 'A passcode has from 4 to 60 letters or digits.';
const SITE = 'A site is written like https://learn.example.org';

/** A site that may show a lesson within its own pages: scheme, host, and a port where it is not the usual one (RFC 6454). */
const site = z
  .string(SITE)
  .trim()
  .toLowerCase()
  .max(200, SITE)
  .regex(/^https?:\/\/[a-z0-9](?:[a-z0-9.-]*[a-z0-9])?(?::\d{1,5})?$/, SITE);

/** What a link allows, and for how long. */
export const linkSettings = z.object({
  /** By which its teacher tells it from the others. */
  name: line.max(60, 'Use at most 60 letters.'),
  /** The class on whose page it stands. */
  schoolClass: classId.nullable(),
  /** Every teacher of the school finds it. */
  isListed: z.boolean(),
  /** Other teachers may take the lesson, with all its recordings, into their own. */
  mayCopy: z.boolean(),
  endsAt: z.iso.datetime('Choose a day and a time.').nullable(),
  allows: z.object({
    /** Sound and text may be saved. */
    download: z.boolean(),
    captions: z.boolean(),
    /** Whoever watches may leave questions, and reads those that are answered. */
    questions: z.boolean(),
  }),
  sites: z.array(site).max(20, 'At most 20 sites.'),
});
export type LinkSettings = z.output<typeof linkSettings>;

export const USUAL_LINK: LinkSettings = {
  name: '',
  schoolClass: null,
  isListed: false,
  mayCopy: false,
  endsAt: null,
  allows: { download: false, captions: true, questions: false },
  sites: [],
};

/** `awaitsPasscode`: nobody watches by it before it is given one. */
export const newLink = z.object({ settings: linkSettings, part: part.nullable(), awaitsPasscode: z.boolean() });
export const changedLink = z.object({ settings: linkSettings });
/** A link's new passcode, or `null` for none any more. */
export const newPasscode = z.object({ passcode: line.min(4, PASSCODE).max(60, PASSCODE).nullable() });
export type NewLink = z.output<typeof newLink>;
export type ChangedLink = z.output<typeof changedLink>;

/** A link as its teacher sees it. */
export const link = z.object({
  token: z.string(),
  settings: linkSettings,
  hasPasscode: z.boolean(),
  state: z.enum(['live', 'ended', 'withdrawn']),
  part: part.nullable(),
  /** What is played is what the lesson is now. */
  isUpToDate: z.boolean(),
  lengthSamples: samples,
  madeAt: z.string(),
  /** The day on which somebody last opened it; `null` where nobody has. */
  lastWatchedOn: z.string().nullable(),
});
export type Link = z.output<typeof link>;

/** A lesson's links, and the token of the one just made. */
export const madeLink = z.object({ made: z.string(), links: z.array(link) });

/** With the right passcode comes a pass, which everything behind the link asks for. */
export const passcodeTry = z.object({ passcode: z.string().max(200) });
export const pass = z.object({ pass: z.string() });
