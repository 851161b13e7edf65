import { isDeepStrictEqual } from 'node:util';
import { writeForm } from '@kite-trail/core/contract/forms';
import type { TaskAbout, TaskSummary } from '@kite-trail/core/contract/task';
import { decodeContents, pageStateFrom } from '@kite-trail/core/formats/marks-coding';
import type { ClassId, PageId, PieceId, TaskId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { ClassRow, HandInRow, LessonRow, TaskRow, TeacherRow } from '../database/rows';
import { freeCode } from '../http/codes';
import { badInput, notFound, RequestProblem } from '../http/problem';
import { stateOf } from '../lessons/changes';
import { copyFiles, gatherPages, type StandingPages } from '../lessons/copy';
import { makeLesson, writtenPage, type WrittenPage } from '../lessons/lessons';
import { ofClass } from '../students/students';
import { lendTo } from '../together/together';
import { aboutOf } from './about';
import { lying } from './hand-ins';

/** What a task is to be: on all pages of a lesson, or on one. */
export interface AskedTask extends TaskAbout {
  schoolClass: ClassId;
  page: PageId | null;
  /** Of the page, what is given out alone. */
  pieces: readonly PieceId[] | null;
}

/**
 * Gives a class a task. It is done on a lesson's pages as they stand now: what becomes of the lesson later changes nothing in it.
 * @param found how they stood a moment ago
 * @throws RequestProblem where the class is not the teacher's, or the lesson has no such page
 */
export async function giveOut(
  db: Knex,
  teacher: TeacherRow,
  lesson: LessonRow,
  { schoolClass, page: wanted, pieces, ...about }: AskedTask,
  found: StandingPages,
): Promise<TaskId> {
  const own = await db<ClassRow>('classes').where({ id: schoolClass, teacher_id: teacher.id }).forUpdate().first('id');
  if (!own) throw notFound('class');
  const isNow = isDeepStrictEqual(found.of, stateOf(lesson));
  const standing = isNow ? found : await gatherPages(db, { lesson: lesson.id });
  const pages = standing.pages
    .filter(({ page }) => wanted === null || page.id === wanted)
    .map((page) => (pieces ? withAlone(page, new Set(pieces)) : page));
  if (pages.length === 0) throw notFound('page');
  const sheet = await makeLesson(db, teacher.id, about.title, pages, { aside: 'task' });
  await copyFiles(db, lesson, sheet);
  await lendTo(db, lesson, teacher.id);
  const row: TaskRow = {
    id: nanoid() as TaskId,
    class_id: schoolClass,
    sheet_id: sheet.id,
    about: writeForm('task', about),
    code: await freeCode(db, 'tasks'),
    made_at: new Date().toISOString(),
    closed_at: null,
  };
  await db('tasks').insert(row);
  return row.id;
}

/** A page with some of its pieces alone. */
function withAlone({ page, contents }: WrittenPage, wanted: ReadonlySet<PieceId>): WrittenPage {
  const { pieces } = pageStateFrom(page, decodeContents(contents));
  return writtenPage({ page, pieces: pieces.filter(({ id }) => wanted.has(id)) });
}

/** Says other things of a task, and closes it, or opens it again. @throws RequestProblem where points that were given would be lost */
export async function changeTask(
  db: Knex,
  { id, about: before, closed_at }: TaskRow,
  { isClosed, ...about }: TaskAbout & { isClosed: boolean },
): Promise<void> {
  const isMarked = await db('hand_ins')
    .join('replies', 'replies.id', 'reply_id')
    .where({ task_id: id })
    .whereNotNull('marking')
    .first('hand_ins.id');
  if (isMarked && about.criteria.length !== aboutOf({ about: before }).criteria.length) {
    throw badInput('Points have been given already: criteria can be renamed now, but none added or taken away.');
  }
  await db('tasks')
    .where({ id })
    .update({
      about: writeForm('task', about),
      closed_at: isClosed ? (closed_at ?? new Date().toISOString()) : null,
    });
}

/** The task a code leads to. @throws RequestProblem where it leads nowhere */
export async function taskByCode(db: Knex, code: string): Promise<TaskRow> {
  const task = await db<TaskRow>('tasks').where({ code }).first();
  if (task) return task;
  throw new RequestProblem(404, 'no-such-code', 'No task has this code. Look at it once more, or ask your teacher.');
}

/** The tasks of a class, the newest first. */
export async function listTasks(db: Knex, { id }: Pick<ClassRow, 'id'>): Promise<TaskSummary[]> {
  const rows = await db<TaskRow>('tasks')
    .where({ class_id: id })
    .orderBy([{ column: 'made_at', order: 'desc' }, 'id']);
  return summaries(db, id, rows);
}

export const summaryOf = async (db: Knex, task: TaskRow): Promise<TaskSummary> =>
  (await summaries(db, task.class_id, [task]))[0];

async function summaries(db: Knex, class_id: ClassId, rows: readonly TaskRow[]): Promise<TaskSummary[]> {
  const students = await ofClass(db, class_id).count({ count: '*' }).first<{ count: number } | undefined>();
  const guests: { guest_of: TaskId; count: number }[] = await db('students')
    .where({ class_id })
    .whereNotNull('guest_of')
    .groupBy('guest_of')
    .select('guest_of')
    .count({ count: '*' });
  const handedIn: (HandInRow & { task_id: TaskId })[] = await lying(db)
    .whereIn(
      'task_id',
      rows.map(({ id }) => id),
    )
    .select('hand_ins.*', 'task_id');
  return rows.map((row) => {
    const those = handedIn.filter(({ task_id }) => task_id === row.id);
    return {
      id: row.id,
      ...aboutOf(row),
      isClosed: row.closed_at !== null,
      madeAt: row.made_at,
      sheet: row.sheet_id,
      code: row.code,
      students: Number(students?.count) + Number(guests.find(({ guest_of }) => guest_of === row.id)?.count ?? 0),
      handedIn: those.length,
      fresh: those.filter(({ opened_at }) => opened_at === null).length,
      givenBack: those.filter(({ given_at }) => given_at !== null).length,
    };
  });
}
