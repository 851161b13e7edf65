import type { OwnTask, TaskAbout } from '@kite-trail/core/contract/task';
import type { LessonId, ReplyId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { ClassRow, HandInRow, LessonRow, ReplyRow, StudentRow, TaskRow } from '../database/rows';
import { badInput, conflict } from '../http/problem';
import { tasksOf } from '../http/students';
import { copyFiles } from '../lessons/copy';
import { makeLesson, writtenPages } from '../lessons/lessons';
import { mainLink } from '../links/live';
import { aboutOf, overAt } from './about';
import { isLate, lyingOf, markingOf } from './hand-ins';

/** So many explanations nobody asked for a student has room for. */
const MOST_UNASKED = 100;

/** What a student works on for a task: their own copy of its pages, unless they have begun. */
export async function beginReply(db: Knex, student: StudentRow, task: TaskRow): Promise<ReplyRow> {
  await hold(db, student);
  const begun = await db<ReplyRow>('replies').where({ student_id: student.id, task_id: task.id }).first();
  if (begun) return begun;
  const sheet = (await db<LessonRow>('lessons').where({ id: task.sheet_id }).first())!;
  const pages = await writtenPages(db, sheet.id);
  const lesson = await makeLesson(db, sheet.teacher_id, aboutOf(task).title, pages, { aside: 'student' });
  await copyFiles(db, sheet, lesson);
  return keepReply(db, student, task, lesson.id);
}

/** Begins an explanation nobody asked for. @throws RequestProblem where there are too many */
export async function explain(db: Knex, student: StudentRow, title: string): Promise<ReplyRow> {
  await hold(db, student);
  const unasked = await db('replies').where({ student_id: student.id, task_id: null }).count({ count: '*' }).first();
  if (Number(unasked?.count) >= MOST_UNASKED) {
    throw conflict('too-many', `There is room for ${MOST_UNASKED} explanations. Delete one first.`);
  }
  const { teacher_id } = (await db<ClassRow>('classes').where({ id: student.class_id }).first())!;
  const lesson = await makeLesson(db, teacher_id, title, undefined, { aside: 'student' });
  return keepReply(db, student, null, lesson.id);
}

/** Chooses one of a task's choices, or none. @throws RequestProblem where it has no such choice */
export async function choose(db: Knex, { id, task_id }: ReplyRow, choice: number | null): Promise<void> {
  const task = task_id === null ? undefined : await db<TaskRow>('tasks').where({ id: task_id }).first();
  if (choice !== null && choice >= (task ? aboutOf(task).choices.length : 0))
    throw badInput('There is no such choice.');
  if (task?.closed_at) throw conflict('closed', 'This question is closed.');
  await db('replies').where({ id }).update({ choice });
}

/** What a student does at once, in two windows, is done one after the other. */
const hold = (db: Knex, { id }: StudentRow) => db('students').where({ id }).forUpdate().first('id');

async function keepReply(db: Knex, student: StudentRow, task: TaskRow | null, lesson: LessonId): Promise<ReplyRow> {
  const row: ReplyRow = {
    id: nanoid() as ReplyId,
    task_id: task?.id ?? null,
    student_id: student.id,
    lesson_id: lesson,
    begun_at: new Date().toISOString(),
    choice: null,
  };
  await db('replies').insert(row);
  return row;
}

/** All a student has to do, has done, and got back, the newest first. */
export async function listOwn(db: Knex, student: StudentRow): Promise<OwnTask[]> {
  const tasks = await tasksOf(db, student).orderBy('made_at', 'desc');
  const replies = await db<ReplyRow>('replies').where({ student_id: student.id }).orderBy('begun_at', 'desc');
  const given = tasks.map((task) =>
    own(
      db,
      task,
      replies.find(({ task_id }) => task_id === task.id),
    ),
  );
  const unasked = replies.filter(({ task_id }) => task_id === null).map((reply) => own(db, null, reply));
  return Promise.all([...given, ...unasked]);
}

async function own(db: Knex, task: TaskRow | null, reply: ReplyRow | undefined): Promise<OwnTask> {
  const lesson = reply && (await db<LessonRow>('lessons').where({ id: reply.lesson_id }).first())!;
  const handed = reply && (await lyingOf(db, reply.id));
  const over = task && overAt(task);
  const about = task && aboutOf(task);
  return {
    task: task && {
      id: task.id,
      ...about!,
      isClosed: over !== null && Date.parse(over) < Date.now(),
    },
    title: about?.title ?? lesson!.title,
    reply:
      reply && lesson
        ? {
            id: reply.id,
            lesson: lesson.id,
            pictureVersion: Date.parse(lesson.changed_at),
            choice: reply.choice,
            handedAt: handed?.handed_at ?? null,
            isLate: handed !== undefined && isLate(handed, about),
            isChanged: handed !== undefined && Date.parse(lesson.changed_at) > Date.parse(handed.handed_at),
            feedback: await feedbackOn(db, reply, about),
          }
        : null,
  };
}

/** What was given back last of a reply, whatever was handed in since. */
async function feedbackOn(db: Knex, { id }: ReplyRow, about: TaskAbout | null) {
  const given = await db<HandInRow>('hand_ins')
    .where({ reply_id: id })
    .whereNotNull('given_at')
    .orderBy('handed_at', 'desc')
    .first();
  if (!given) return null;
  const link = await mainLink(db, given.lesson_id);
  return {
    handIn: given.id,
    givenAt: given.given_at!,
    isSeen: given.seen_at !== null,
    answer: given.answer,
    ...markingOf(given.given_marking, about),
    watch: link?.token ?? null,
  };
}
