import { z } from 'zod';
import type { Edition } from '../trail/edition';
import { captionId, color, line, pieceId, promptId, samples, takeId, text, versionId } from './primitives';

const MOST_SEGMENTS = 10_000;

const voice = z.object({ take: takeId, fromSamples: samples }).nullable().optional();
const base = z.object({ take: takeId, isDivided: z.literal(true).optional() });
const range = base.extend({ fromSamples: samples, toSamples: samples });
const endsLater = (one: { fromSamples: number; toSamples: number }) => one.toSamples >= one.fromSamples;
const ENDS_LATER = 'A segment must not end before it begins.';

const segmentNow = z.discriminatedUnion('kind', [
  range.extend({ kind: z.literal('play'), pace: z.number().min(0.25).max(16), voice }).refine(endsLater, ENDS_LATER),
  range.extend({ kind: z.literal('at-once') }).refine(endsLater, ENDS_LATER),
  range.extend({ kind: z.literal('pages') }).refine(endsLater, ENDS_LATER),
  base.extend({ kind: z.literal('still'), atSamples: samples, forSamples: samples, voice }),
]);

/** As the first version kept it: what kind of segment it is was told by its pace. */
const segmentAtFirst = z
  .object({
    take: takeId,
    fromSamples: samples,
    toSamples: samples,
    pace: z.union([z.number(), z.literal(['at-once', 'pages', 'still'])]),
    stillSamples: samples.optional(),
    isDivided: z.literal(true).optional(),
    voice,
  })
  .transform(({ pace, stillSamples = 0, voice: over, fromSamples, toSamples, ...own }): z.input<typeof segmentNow> => {
    const spoken = over === undefined ? {} : { voice: over };
    if (pace === 'still') {
      return { kind: pace, ...own, atSamples: fromSamples, forSamples: stillSamples, ...spoken };
    }
    const stretch = { ...own, fromSamples, toSamples };
    return typeof pace === 'number' ? { kind: 'play', ...stretch, pace, ...spoken } : { kind: pace, ...stretch };
  });

/** A segment of either version; what comes out is of the newest. */
export const segment = z.union([segmentNow, segmentAtFirst.pipe(segmentNow)]);
export const programme = z.array(segment).max(MOST_SEGMENTS);

const takeMoment = z.object({ take: takeId, atSamples: samples });

const inkEdit = z.object({
  stroke: pieceId,
  isOut: z.literal(true).optional(),
  at: z.union([takeMoment, z.literal('start')]).optional(),
  color: color.optional(),
});

const chapter = takeMoment.extend({
  title: z
    .string()
    .trim()
    .min(1, 'Give the chapter a name.')
    .max(120, 'Use at most 120 letters for a chapter.')
    .nullable(),
});

const takeSpan = z.object({ take: takeId, fromSamples: samples, toSamples: samples });

/** A part of a lesson (`trail/part`). */
export const part = z.array(takeSpan).min(1).max(10_000, 'This part has too many cuts in it. Choose a shorter one.');

export const captionText = z.string().max(1000, 'Use at most 1,000 letters for a caption.');

const caption = z.object({
  id: captionId,
  text: captionText,
  spans: z.array(takeSpan).max(1000, 'This caption lies over too many cuts. Divide it.'),
});

const prompt = takeMoment.extend({
  id: promptId,
  question: text.min(1, 'Ask something.').max(500, 'Use at most 500 letters for a question.'),
  answer: text.max(2000, 'Use at most 2,000 letters for your answer.'),
});

/** All that is decided about what viewers get. */
export const edition = z.object({
  programme,
  inkEdits: z.array(inkEdit).max(50_000, 'At most 50,000 strokes can be edited in a lesson.'),
  chapters: z.array(chapter).max(1000, 'A lesson has at most 1,000 chapters.'),
  captions: z.array(caption).max(10_000, 'A lesson has at most 10,000 captions.'),
  // Editions from before there were any have none.
  prompts: z.array(prompt).max(200, 'A lesson asks at most 200 questions.').default([]),
  sound: z.object({ isEvened: z.boolean(), isQuieted: z.boolean() }),
});

/**
 * Why an edition cannot be kept, in words a teacher can act on, or `null`. Parts that are those of an edition that was kept are
 * taken as they are. A programme is only counted: its segments come from `core/trail`, and checking thousands takes longer than
 * an edit may.
 */
export function editionProblem(wanted: Edition, kept: Edition): string | null {
  if (wanted.programme.length > MOST_SEGMENTS) return 'This trail has too many parts. Join some before you cut on.';
  for (const part of ['inkEdits', 'chapters', 'captions', 'prompts', 'sound'] as const) {
    const read = wanted[part] === kept[part] ? null : edition.shape[part].safeParse(wanted[part]);
    if (read?.error) return read.error.issues[0].message;
  }
  return null;
}

/** An edition that was given a name. */
export const version = z.object({
  id: versionId,
  name: z.string(),
  lengthSamples: samples,
  madeAt: z.string(),
});
export const newVersion = z.object({
  name: line.min(1, 'Give the version a name.').max(80, 'Use at most 80 letters.'),
});

/** Which edit an edition came from: its number among those that can be undone, and when it was made. */
export const editedFrom = z.object({ n: z.number().int().min(0), madeAt: z.string() });

/** The edition in force, and what can be done from there. */
export const editState = z.object({
  edition,
  /** Number 0 before the first take. */
  edit: editedFrom,
  canUndoEdit: z.boolean(),
  canRedoEdit: z.boolean(),
  link: z.object({ token: z.string(), upToDate: z.boolean() }).nullable(),
});

export type EditState = z.output<typeof editState>;
export type EditedFrom = z.output<typeof editedFrom>;
export type Version = z.output<typeof version>;
