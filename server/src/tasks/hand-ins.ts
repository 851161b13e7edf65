import { readForm, writeForm } from '@kite-trail/core/contract/forms';
import { titleOf } from '@kite-trail/core/contract/lesson';
import type { HandIn, Marking, TaskAbout } from '@kite-trail/core/contract/task';
import type { AssetId, HandInId, LessonId, ReplyId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { named, storeAsset } from '../assets/assets';
import { dropUnnamed } from '../assets/ownership';
import type { GivenPageRow, HandInRow, LessonRow, ReplyRow, StudentRow, TaskRow } from '../database/rows';
import { badInput, conflict } from '../http/problem';
import { gatherForOthers, handedIn, type Duplicate } from '../lessons/duplicate';
import type { PaintedPage } from '../lessons/picture';
import { aboutOf, overAt } from './about';

/** Clocks of devices differ by so much without anybody noticing. */
const CLOCKS_DIFFER_MS = 2 * 60_000;
/** What was handed in without a network, before a task closed, is taken when it comes so much later. */
const ON_ITS_WAY_MS = 14 * 24 * 3600 * 1000;

/** What lies with teachers: of each reply what was handed in last, unless it was taken back. */
export const lying = (db: Knex): Knex.QueryBuilder =>
  db('hand_ins')
    .join('replies', 'replies.id', 'hand_ins.reply_id')
    .whereNull('taken_back_at')
    .whereNotExists((later) =>
      later
        .from({ later: 'hand_ins' })
        .whereRaw('later.reply_id = hand_ins.reply_id')
        .whereRaw('later.handed_at > hand_ins.handed_at'),
    );

/** What lies with the teacher of a reply. */
export const lyingOf = (db: Knex, reply: ReplyId): Promise<HandInRow | undefined> =>
  lying(db).where('replies.id', reply).first<HandInRow | undefined>('hand_ins.*');

/**
 * Hands in a student's work as it is now: its teacher gets a copy, and the student may go on with theirs.
 * @param saidAt when the student's device says it was handed in
 * @param found what `gatherForOthers` made of the work a moment ago
 * @throws RequestProblem where nothing can be handed in any more
 */
export async function handIn(
  db: Knex,
  student: StudentRow,
  reply: ReplyRow,
  lesson: LessonRow,
  saidAt: string,
  found: Duplicate,
): Promise<void> {
  const task = reply.task_id === null ? null : (await db<TaskRow>('tasks').where({ id: reply.task_id }).first())!;
  const nowMs = Date.now();
  // A device whose clock is wrong may say anything: what it says counts only for what cannot have come at once.
  const saidMs = Math.min(nowMs, Math.max(Date.parse(saidAt), nowMs - ON_ITS_WAY_MS));
  if (task) refuseIfOver(task, saidMs);
  const title = titleOf(`${student.name}: ${task ? aboutOf(task).title : lesson.title}`);
  const copy = await handedIn(db, lesson, title, found);
  await keepHandIn(db, reply, copy.id, nowMs - saidMs > CLOCKS_DIFFER_MS ? new Date(saidMs).toISOString() : null);
}

function refuseIfOver(task: TaskRow, saidMs: number): void {
  const over = overAt(task);
  if (over === null || saidMs <= Date.parse(over)) return;
  throw conflict(
    'closed',
    'This task is closed: nothing can be handed in any more. Your work is kept; ask your teacher to open it again.',
  );
}

/** Lets a lesson lie with the teacher as what was handed in last. */
export async function keepHandIn(
  db: Knex,
  { id: reply_id, choice }: ReplyRow,
  lesson_id: LessonId,
  said_at: string | null,
): Promise<void> {
  const last = await db<HandInRow>('hand_ins').where({ reply_id }).orderBy('handed_at', 'desc').first();
  // One after the other, also where a clock is set back.
  const handedMs = Math.max(Date.now(), last ? Date.parse(last.handed_at) + 1 : 0);
  const row: HandInRow = {
    id: nanoid() as HandInId,
    reply_id,
    lesson_id,
    handed_at: new Date(handedMs).toISOString(),
    said_at,
    choice,
    taken_back_at: null,
    opened_at: null,
    marking: null,
    given_marking: null,
    answer: null,
    given_at: null,
    seen_at: null,
  };
  await db('hand_ins').insert(row);
}

/**
 * Stops what is asked now: all that was begun is handed in as it is, and nothing more can be.
 * @param found by its lesson, what `gatherForOthers` made of each reply a moment ago
 */
export async function stop(db: Knex, task: TaskRow, found: ReadonlyMap<LessonId, Duplicate>): Promise<void> {
  for (const reply of await db<ReplyRow>('replies').where({ task_id: task.id })) {
    const lesson = (await db<LessonRow>('lessons').where({ id: reply.lesson_id }).forUpdate().first())!;
    const lies = await lyingOf(db, reply.id);
    const isAsItLies =
      lies && Date.parse(lies.handed_at) >= Date.parse(lesson.changed_at) && lies.choice === reply.choice;
    // Whoever has written nothing, and chosen nothing, has answered nothing.
    const isEmpty = reply.choice === null && lesson.revision === 1 && lesson.programme_n === 0;
    if (isAsItLies || isEmpty) continue;
    const student = (await db<StudentRow>('students').where({ id: reply.student_id }).first())!;
    const gathered = found.get(lesson.id) ?? (await gatherForOthers(db, { lesson: lesson.id }));
    await handIn(db, student, reply, lesson, new Date().toISOString(), gathered);
  }
  await db('tasks').where({ id: task.id }).update({ closed_at: new Date().toISOString() });
}

/** Takes back what lies with the teacher. @throws RequestProblem where nothing does, or it has been given back */
export async function takeBack(db: Knex, reply: ReplyRow): Promise<void> {
  const row = await lyingOf(db, reply.id);
  if (!row) throw conflict('not-handed-in', 'Nothing of this is handed in.');
  if (row.given_at !== null) {
    throw conflict(
      'given-back',
      'Your teacher has given this back already. You can change your work and hand it in again.',
    );
  }
  // All that was handed in before is no longer what is meant, either.
  await db('hand_ins')
    .where({ reply_id: reply.id })
    .whereNull('taken_back_at')
    .update({ taken_back_at: new Date().toISOString() });
}

/** What lies with teachers, with what is said of it beside. */
export type LyingRow = HandInRow &
  Pick<ReplyRow, 'task_id' | 'student_id'> &
  Pick<LessonRow, 'changed_at'> & { length_samples: number | null };

/** What lies with teachers, in one question, however much it is. @param which of the replies are meant */
export const lyingWithLength = (
  db: Knex,
  which: (handIns: Knex.QueryBuilder) => Knex.QueryBuilder,
): Promise<LyingRow[]> =>
  which(lying(db))
    .join('lessons', 'lessons.id', 'hand_ins.lesson_id')
    .leftJoin('programmes', (join) =>
      join.on('programmes.lesson_id', 'lessons.id').andOn('programmes.n', 'lessons.programme_n'),
    )
    .select('hand_ins.*', 'replies.task_id', 'replies.student_id', 'lessons.changed_at', 'programmes.length_samples');

/** What was handed in, as its teacher sees it. @param about what is said of its task; `null` for what was made unasked */
export function describeHandIn(row: LyingRow, about: TaskAbout | null): HandIn {
  return {
    id: row.id,
    lesson: row.lesson_id,
    handedAt: row.handed_at,
    saidAt: row.said_at,
    isLate: isLate(row, about),
    choice: row.choice,
    lengthSamples: Number(row.length_samples ?? 0),
    pictureVersion: Date.parse(row.changed_at),
    isOpened: row.opened_at !== null,
    ...markingOf(row.marking, about),
    givenAt: row.given_at,
    seenAt: row.seen_at,
    answer: row.answer,
    isChanged: row.given_at !== null && Date.parse(row.changed_at) > Date.parse(row.given_at),
  };
}

/** Whether it came after it was due. */
export const isLate = ({ handed_at }: Pick<HandInRow, 'handed_at'>, about: TaskAbout | null): boolean =>
  about !== null && about.dueAt !== null && Date.parse(handed_at) > Date.parse(about.dueAt);

/** Points and words: a place for each criterion. @param marking as it is kept; `null` where there is none */
export function markingOf(marking: string | null, about: TaskAbout | null): Marking {
  const { points, note } = marking === null ? { points: [], note: '' } : readForm('marking', marking);
  return { points: (about?.criteria ?? []).map((_, n) => points[n] ?? null), note };
}

/** @throws RequestProblem where more points are given than there are */
export async function keepMarking(db: Knex, row: HandInRow, marking: Marking): Promise<void> {
  const task = await taskOf(db, row);
  const criteria = task ? aboutOf(task).criteria : [];
  if (marking.points.length !== criteria.length) throw badInput('The task was changed meanwhile. Load the page again.');
  criteria.forEach(({ name, points }, n) => {
    if ((marking.points[n] ?? 0) > points) throw badInput(`“${name}” counts ${points} at most.`);
  });
  await db('hand_ins')
    .where({ id: row.id })
    .update({ marking: writeForm('marking', marking) });
}

/** The task something was handed in for; `null` for what was made unasked. */
export async function taskOf(db: Knex, { reply_id }: HandInRow): Promise<TaskRow | null> {
  const task: TaskRow | undefined = await db('tasks')
    .join('replies', 'replies.task_id', 'tasks.id')
    .where('replies.id', reply_id)
    .first('tasks.*');
  return task ?? null;
}

/** Its teacher has opened it. */
export const open = (db: Knex, { id }: HandInRow): Promise<unknown> =>
  db('hand_ins').where({ id }).whereNull('opened_at').update({ opened_at: new Date().toISOString() });

/**
 * Gives it back as it is now, with all that is written and spoken on it, and its points; or again, with what was added since. What is
 * written later is not seen before it is given back, too.
 * @param painted what its pages look like
 */
export async function giveBack(
  db: Knex,
  { id, lesson_id, marking, opened_at }: HandInRow,
  painted: readonly PaintedPage[],
): Promise<void> {
  const now = new Date().toISOString();
  const before: AssetId[] = await db<GivenPageRow>('given_pages').where({ lesson_id }).pluck('picture_asset');
  await db('given_pages').where({ lesson_id }).delete();
  for (const [position, { page, png }] of painted.entries()) {
    const picture_asset = await storeAsset(db, 'image/png', named(png));
    await db('given_pages').insert({ lesson_id, page_id: page, position, picture_asset } satisfies GivenPageRow);
  }
  await dropUnnamed(db, before);
  await db('hand_ins')
    .where({ id })
    .update({ given_at: now, given_marking: marking, opened_at: opened_at ?? now, seen_at: null });
}

/** The pages that were given back, in their order. */
export const givenPages = (db: Knex, { lesson_id }: HandInRow): Promise<GivenPageRow[]> =>
  db<GivenPageRow>('given_pages').where({ lesson_id }).orderBy('position');

/** Its student says something to what was given back, or takes that back. */
export const answer = (db: Knex, { id }: HandInRow, said: string): Promise<unknown> =>
  db('hand_ins')
    .where({ id })
    .update({ answer: said === '' ? null : said });

/** Its student has opened what was given back. */
export const see = (db: Knex, { id }: HandInRow): Promise<unknown> =>
  db('hand_ins').where({ id }).whereNull('seen_at').update({ seen_at: new Date().toISOString() });
