import { z } from 'zod';
import { pageUnit } from '../lesson/content';
import { LARGEST_SIDE_PT, LEAST_SIDE_PT, PAPER_KINDS } from '../lesson/page';
import { editState, editedFrom, edition, programme, version } from './edition';
import { assetId, base64, classId, color, lessonId, line, pageId, samples, takeId, text } from './primitives';

const SIDES = 'A page is from 72 to 14,400 points wide and high: 1 to 200 inches.';
const sizePt = z.number(SIDES).min(LEAST_SIDE_PT, SIDES).max(LARGEST_SIDE_PT, SIDES);

const ROOM = 'A page has at most 14,400 points of room on each side.';
const placePt = z.number(ROOM).min(-LARGEST_SIDE_PT, ROOM).max(LARGEST_SIDE_PT, ROOM);

const SCALE = 'A centimetre stands for a number above 0.';
const SPACING = 'The lines of a paper are from 2 to 720 points apart.';

export const page = z.object({
  id: pageId,
  leftPt: placePt,
  topPt: placePt,
  widthPt: sizePt,
  heightPt: sizePt,
  paper: z.object({
    kind: z.enum(PAPER_KINDS),
    color,
    lineColor: color,
    spacingPt: z.number(SPACING).min(2, SPACING).max(720, SPACING),
    // The first papers had none.
    picture: assetId.nullable().default(null),
  }),
  sheet: z
    .object({
      asset: assetId,
      pageIndex: z.number().int().min(0).nullable(),
      widthPt: z.number().positive().max(LARGEST_SIDE_PT),
      heightPt: z.number().positive().max(LARGEST_SIDE_PT),
    })
    .nullable(),
  // Pages kept before there were scales have none.
  scale: z
    .object({ perCm: z.number(SCALE).positive(SCALE), unit: pageUnit })
    .nullable()
    .default(null),
});

/** A page as prepared; its pieces in the bytes of `formats/marks-coding`. */
export const pageState = z.object({ page, pieces: base64 });

export const takePlan = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('carry-on') }),
  z.object({ kind: z.literal('insert'), atSamples: samples }),
  z.object({ kind: z.literal(['retake', 're-ink']), fromSamples: samples, replaced: programme }),
  z.object({
    kind: z.literal('re-speak'),
    fromSamples: samples,
    replaced: programme,
    holds: z.array(z.object({ atSamples: samples, forSamples: samples })).max(1000),
  }),
]);

export const takeName = line.max(80, 'Use at most 80 letters.');

const LONGEST_TITLE = 120;
export const title = line.min(1, 'Give the lesson a name.').max(LONGEST_TITLE, `Use at most ${LONGEST_TITLE} letters.`);

/** A name made of another text, as long as a name may be, and with something behind it; it is not cut within a letter. */
export const titleOf = (text: string, behind = ''): string =>
  text.slice(0, LONGEST_TITLE - behind.length).replace(/\p{Surrogate}$/u, '') + behind;

/** Under which others may use a lesson: all rights reserved, or a licence of Creative Commons' version 4.0. */
export const LICENCES = [
  'reserved',
  'CC BY',
  'CC BY-SA',
  'CC BY-NC',
  'CC BY-NC-SA',
  'CC BY-ND',
  'CC BY-NC-ND',
  'CC0',
] as const;
const MOST_TAGS = 'Use at most 20 tags.';

/** What a teacher says about a lesson, for whoever looks for it. */
export const lessonAbout = z.object({
  description: text.max(2000, 'Use at most 2,000 letters.'),
  subject: line.max(60, 'Use at most 60 letters.'),
  level: line.max(60, 'Use at most 60 letters.'),
  /** A language tag (BCP 47), or nothing. */
  language: z
    .string()
    .regex(/^([A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*)?$/, 'Choose a language from the list.')
    .max(35),
  tags: z.array(line.min(1, 'A tag has letters.').max(40, 'A tag has at most 40 letters.')).max(20, MOST_TAGS),
  /** The page whose picture stands for the lesson; `null` for the one that is seen when it begins. */
  coverPage: pageId.nullable(),
  licence: z.enum(LICENCES),
});
export type LessonAbout = z.output<typeof lessonAbout>;

export const NOTHING_SAID: LessonAbout = {
  description: '',
  subject: '',
  level: '',
  language: '',
  tags: [],
  coverPage: null,
  licence: 'reserved',
};

/** Whose lesson a copy was made of, as it was called then, and under which licence. */
export const lessonSource = z.object({ teacher: z.string(), title: z.string(), licence: z.enum(LICENCES) });
export type LessonSource = z.output<typeof lessonSource>;

export const lessonSummary = z.object({
  id: lessonId,
  title: z.string(),
  about: lessonAbout,
  /** Of another teacher's lesson from which it was copied. */
  source: lessonSource.nullable(),
  /** Whose it is; `null` for one's own. */
  owner: z.string().nullable(),
  /** Who else works on it. */
  colleagues: z.array(z.string()),
  isFavourite: z.boolean(),
  pageCount: z.number(),
  lengthSamples: samples,
  shared: z.boolean(),
  /** How many questions of students' wait for an answer. */
  openQuestions: z.number(),
  madeAt: z.string(),
  changedAt: z.string(),
  /** When it was put into the bin; `null` where it is not in it. */
  binnedAt: z.string().nullable(),
  /** Changes whenever the lesson's picture does. */
  pictureVersion: z.number(),
});

export const takeSummary = z.object({
  id: takeId,
  lengthSamples: samples,
  hasSound: z.boolean(),
  sound: assetId.nullable(),
  marks: assetId.nullable(),
  ended: z.boolean(),
  /** What was heard of its voice is kept with it: all, or the minutes before a recording broke off. */
  hasProfile: z.boolean(),
  /** How many parts have come of a take that has not ended, and are in none that was made of its beginning. */
  partCount: z.number(),
  /** The take that was made of its beginning, when it seemed to have broken off. */
  keptAs: takeId.nullable(),
  startedAt: z.string(),
  /** Where it was made to play. */
  plan: takePlan,
  /** Empty where the teacher has given it none. */
  name: z.string(),
  isBinned: z.boolean(),
});

export const lesson = z.object({
  id: lessonId,
  title: z.string(),
  about: lessonAbout,
  isBinned: z.boolean(),
  /** Goes up by one with each change of the pages; a change made from an older one is refused. */
  revision: z.number().int(),
  pages: z.array(pageState).min(1),
  /** What was changed since the last take; it begins the next one. In the bytes of `formats/marks-coding`. */
  between: base64,
  /** What can be undone and redone, in the bytes of `formats/history-coding`. */
  history: base64,
  takes: z.array(takeSummary),
  /** Editions that were given a name, the newest first. */
  versions: z.array(version),
  ...editState.shape,
});

export const newLesson = z.object({ title, classes: z.array(classId).max(100).default([]) });
export const lessonName = z.object({ title });
export type LessonName = z.output<typeof lessonName>;
/** Changes made since `revision`, in the bytes of `formats/marks-coding`, and what can be undone after them. */
export const changeLesson = z.object({
  revision: z.number().int(),
  marks: base64,
  history: base64,
});
export const changed = z.object({ revision: z.number().int(), merged: z.boolean() });
/** `revision`: what the pages were when it began; what others changed later is not in it. */
export const newTake = z.object({
  id: takeId,
  hasSound: z.boolean(),
  plan: takePlan.default({ kind: 'carry-on' }),
  revision: z.number().int().optional(),
});
/** `parts` counts the parts the take has; `recover` makes do with those that arrived; `plan` is the final one. */
export const endTake = z.object({
  parts: z.number().int().min(0),
  recover: z.boolean().default(false),
  plan: takePlan.optional(),
});
export const nameTake = z.object({ name: takeName });
export const editLesson = z.object({ from: editedFrom, edition });
/** From which edit it goes back or on; an older page does not say. */
export const stepEdits = z.object({ from: editedFrom.optional() }).default({});

export type LessonSummary = z.output<typeof lessonSummary>;
export type LessonDocument = z.output<typeof lesson>;
export type TakeSummary = z.output<typeof takeSummary>;
export type PageDocument = z.output<typeof pageState>;
