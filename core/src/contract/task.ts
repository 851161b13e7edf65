import { z } from 'zod';
import { page } from './lesson';
import {
  assetId,
  classId,
  handInId,
  lessonId,
  line,
  pageId,
  pieceId,
  replyId,
  studentId,
  taskId,
  text,
  watchToken,
} from './primitives';

const MOST_CRITERIA = 12;
const MOST_POINTS = 100;
export const MOST_CHOICES = 6;
/** So many pieces of a page can be given out. */
const MOST_PIECES = 5000;
/** So many replies lie beside one another on a page. */
export const MOST_BESIDE = 12;

/** Something that is looked at when a reply is marked, and how much it counts. */
const criterion = z.object({
  name: line.min(1, 'Name what is looked at.').max(60, 'Use at most 60 letters.'),
  points: z
    .int('Points are whole numbers.')
    .min(1, 'Give at least 1 point.')
    .max(MOST_POINTS, 'Give at most 100 points.'),
});
export type Criterion = z.output<typeof criterion>;

/** What a student may use beside ink, which all may. */
export const ALLOWED = ['voice', 'text', 'pictures'] as const;
export type Allowed = (typeof ALLOWED)[number];

/** What is said of a task. */
export const taskAbout = z.object({
  title: line.min(1, 'Give the task a name.').max(120, 'Use at most 120 letters.'),
  question: text.max(2000, 'Use at most 2,000 letters.'),
  dueAt: z.iso.datetime().nullable(),
  /** Whether what comes after that is taken, and marked as late. */
  takesLate: z.boolean(),
  allows: z.array(z.enum(ALLOWED)).max(ALLOWED.length),
  criteria: z.array(criterion).max(MOST_CRITERIA, 'Look at twelve things at most.'),
  /** A shared lesson that is heard first, and one that shows how it can be done. */
  instruction: watchToken.nullable(),
  example: watchToken.nullable(),
  /** Of which one is chosen, where there are any. */
  choices: z.array(line.min(1, 'A choice needs a word.').max(120, 'Use at most 120 letters.')).max(MOST_CHOICES),
  /** It is asked now: its teacher sees answers while they are written, and stops it. */
  isLive: z.boolean(),
  /** Whoever has its code may do it, under a name they write. */
  isOpen: z.boolean(),
});
export type TaskAbout = z.output<typeof taskAbout>;

/** A task for a class, on the pages of a lesson as they stand: all of them, or one. */
export const newTask = z.object({
  ...taskAbout.shape,
  schoolClass: classId,
  page: pageId.nullable(),
  /** Of the page, what is given out alone. */
  pieces: z.array(pieceId).min(1, 'Take hold of something first.').max(MOST_PIECES).nullable(),
});

/** What is said of a task later, and whether it is closed: then nothing can be handed in any more. */
export const changeTask = z.object({ ...taskAbout.shape, isClosed: z.boolean() });

/** A task, in the list of its class. */
export const taskSummary = z.object({
  id: taskId,
  ...taskAbout.shape,
  isClosed: z.boolean(),
  madeAt: z.iso.datetime(),
  /** By which it is found on any device. */
  code: z.string(),
  /** The pages it is done on. */
  sheet: lessonId,
  /** How many students it is for, how many have handed in, and what of that nobody has looked at yet, or given back. */
  students: z.number(),
  handedIn: z.number(),
  fresh: z.number(),
  givenBack: z.number(),
});
export type TaskSummary = z.output<typeof taskSummary>;

/** Points by criterion, `null` where none were given yet; and some words. */
export const marking = z.object({
  points: z
    .array(z.int('Points are whole numbers.').min(0, 'Give 0 points or more.').max(MOST_POINTS).nullable())
    .max(MOST_CRITERIA),
  note: text.max(2000, 'Use at most 2,000 letters.'),
});
export type Marking = z.output<typeof marking>;

/** What was handed in at one time. */
export const handIn = z.object({
  id: handInId,
  /** The work as it was handed in, on which feedback is written and spoken. */
  lesson: lessonId,
  handedAt: z.iso.datetime(),
  /** When the student's device says it was handed in, where it had no network then; else `null`. */
  saidAt: z.iso.datetime().nullable(),
  isLate: z.boolean(),
  lengthSamples: z.number(),
  pictureVersion: z.number(),
  /** Which of the choices; `null` for none. */
  choice: z.number().nullable(),
  /** Whether its teacher has opened it. */
  isOpened: z.boolean(),
  ...marking.shape,
  /** When it was given back, and when the student has opened that. */
  givenAt: z.iso.datetime().nullable(),
  seenAt: z.iso.datetime().nullable(),
  /** What the student says to what was given back; `null` for nothing. */
  answer: z.string().nullable(),
  /** Whether something was written or spoken on it since it was given back. */
  isChanged: z.boolean(),
});
export type HandIn = z.output<typeof handIn>;

/** What a class's students made unasked and handed in. */
const unaskedWork = z.object({
  student: z.object({ id: studentId, name: z.string() }),
  title: z.string(),
  handIn,
});

export const classTasks = z.object({
  className: z.string(),
  tasks: z.array(taskSummary),
  unasked: z.array(unaskedWork),
});
export type ClassTasks = z.output<typeof classTasks>;
export const madeTask = z.object({ id: taskId });

/** What a student has made of a task. */
export const reply = z.object({
  id: replyId,
  begunAt: z.iso.datetime(),
  pictureVersion: z.number(),
  choice: z.number().nullable(),
  /** What lies with the teacher; `null` while nothing does: not handed in yet, or taken back. */
  handIn: handIn.nullable(),
  wasTakenBack: z.boolean(),
});
export type Reply = z.output<typeof reply>;

/** The pages of somebody's work, in their order. */
export const workPages = z.object({ pages: z.array(pageId) });

/** All that was handed in for a task, by student. */
export const markingTable = z.object({
  task: taskSummary,
  schoolClass: z.object({ id: classId, name: z.string() }),
  /** Those it is done on: by them one page's answers are compared. */
  pages: z.array(pageId),
  rows: z.array(z.object({ student: z.object({ id: studentId, name: z.string() }), reply: reply.nullable() })),
});
export type MarkingTable = z.output<typeof markingTable>;

/** When the student's device says it was handed in. */
export const handingIn = z.object({ saidAt: z.iso.datetime() });
export type HandingIn = z.output<typeof handingIn>;

/** A task, as a student sees it, with what they have made of it. */
export const ownTask = z.object({
  /** `null` for what was made unasked. */
  task: z
    .object({
      id: taskId,
      ...taskAbout.omit({ criteria: true }).shape,
      criteria: z.array(z.object({ name: z.string(), points: z.number() })),
      /** Nothing can be handed in any more. */
      isClosed: z.boolean(),
    })
    .nullable(),
  title: z.string(),
  /** What the student works on; `null` before they have begun. */
  reply: z
    .object({
      id: replyId,
      lesson: lessonId,
      pictureVersion: z.number(),
      choice: z.number().nullable(),
      handedAt: z.iso.datetime().nullable(),
      isLate: z.boolean(),
      /** What was changed since then is not handed in yet. */
      isChanged: z.boolean(),
      feedback: z
        .object({
          handIn: handInId,
          givenAt: z.iso.datetime(),
          isSeen: z.boolean(),
          /** What the student has said to it. */
          answer: z.string().nullable(),
          ...marking.shape,
          /** By which it is heard and replayed; `null` where nothing was recorded. */
          watch: z.string().nullable(),
        })
        .nullable(),
    })
    .nullable(),
});
export type OwnTask = z.output<typeof ownTask>;
export const ownTasks = z.array(ownTask);

/** What a student is told who begins on a task, or goes on. */
export const begunReply = z.object({ reply: replyId, lesson: lessonId });

/** An explanation nobody asked for. */
export const newExplanation = z.object({ title: line.min(1, 'Give it a name.').max(120, 'Use at most 120 letters.') });

/** What somebody is told who has a task's code. */
export const askedTask = z.object({
  id: taskId,
  title: z.string(),
  isOpen: z.boolean(),
  /** Whoever asks is known to its class. */
  isOwn: z.boolean(),
});
export type AskedTask = z.output<typeof askedTask>;

export const choosing = z.object({
  choice: z
    .int()
    .min(0)
    .max(MOST_CHOICES - 1)
    .nullable(),
});

/** What a student says to what was given back, or asks; nothing takes it back. */
export const answering = z.object({ answer: text.max(1000, 'Use at most 1,000 letters.') });

/** What a teacher often writes to students. */
export const phrases = z.array(text.min(1).max(300, 'Use at most 300 letters.')).max(60, 'Keep sixty at most.');

/** Work that came otherwise, such as by mail: a file, as pages, for a student. */
export const broughtWork = z.object({
  student: studentId,
  asset: assetId,
  name: line.max(200),
  pages: z.array(page).min(1).max(60, 'A reply takes 60 pages at most.'),
});

/** Replies that are laid on a page beside one another; a page of each, or the one that stands for it. */
export const besideOnPage = z.object({
  replies: z.array(replyId).min(1, 'Choose some first.').max(MOST_BESIDE, `Choose ${MOST_BESIDE} at most.`),
  page: pageId.nullable(),
});
export const madeBeside = z.object({ lesson: lessonId });
