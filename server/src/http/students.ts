import { readForm } from '@kite-trail/core/contract/forms';
import { handInId, lessonId, replyId, studentId, takeId, taskId } from '@kite-trail/core/contract/primitives';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Request } from 'express';
import type { Knex } from 'knex';
import type { HandInRow, LessonAssetRow, LessonRow, ReplyRow, StudentRow, TakeRow, TaskRow } from '../database/rows';
import { held, studentOf, teacherOf, writerOf, type Purpose, type Writer } from './callers';
import { lessonFor } from './lessons-of-teachers';
import { assetOf } from './named';
import { notFound } from './problem';
import type { Grants } from './rights';

/** What students have a right to, what they share with teachers because both write lessons, and what of theirs teachers have a right to. */
export const STUDENTS_GRANTS = {
  'a writer': async (db, request) => ({ writer: await writerOf(db, request) }),
  'the lesson’s writer': async (db, request, purpose) => {
    const writer = await writerOf(db, request);
    return { writer, lesson: await writtenLesson(db, writer, request.params.lesson, purpose) };
  },
  'the lesson’s file, for its writer': async (db, request, purpose) => {
    const lesson = await writtenLesson(db, await writerOf(db, request), request.params.lesson, purpose);
    const asset = assetOf(request);
    const has = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: lesson.id, asset_id: asset }).first();
    if (!has) throw notFound('file');
    return { lesson, asset };
  },
  'the take’s writer': async (db, request, purpose) => {
    const writer = await writerOf(db, request);
    const id = takeId.safeParse(request.params.take);
    const find = () => (id.success ? db<TakeRow>('takes').where({ id: id.data }).first() : undefined);
    const found = await find();
    if (!found) throw notFound('recording');
    const lesson = await writtenLesson(db, writer, found.lesson_id, purpose);
    // It is read once more, for another request may have changed it before this one had its lesson.
    return { writer, lesson, take: (await find())! };
  },
  'a student': async (db, request) => ({ student: await studentOf(db, request) }),
  'the student’s task': async (db, request) => {
    const student = await studentOf(db, request);
    const id = taskId.safeParse(request.params.task);
    const task = id.success ? await tasksOf(db, student).where({ id: id.data }).first() : undefined;
    if (!task) throw notFound('task');
    return { student, task };
  },
  'the reply’s student': async (db, request, purpose) => {
    const student = await studentOf(db, request);
    const id = lessonId.safeParse(request.params.lesson);
    const reply = id.success ? await replyIn(db, student, id.data) : undefined;
    if (!reply) throw notFound('work');
    const lesson = await held(db<LessonRow>('lessons').where({ id: reply.lesson_id }), purpose).first();
    return { student, reply, lesson: lesson! };
  },
  'the feedback’s student': async (db, request) => {
    const student = await studentOf(db, request);
    const handIn = await handInBy(db, request, (all) =>
      all.where('replies.student_id', student.id).whereNotNull('given_at'),
    );
    return { student, ...handIn };
  },
  'the student’s teacher': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const id = studentId.safeParse(request.params.student);
    const student = id.success
      ? await held(
          db<StudentRow>('students').where({ id: id.data }).whereIn('class_id', classesOf(db, teacher.id)),
          purpose,
        ).first()
      : undefined;
    if (!student) throw notFound('student');
    return { student };
  },
  'the task’s teacher': async (db, request, purpose) => {
    const teacher = await teacherOf(db, request);
    const id = taskId.safeParse(request.params.task);
    const task = id.success
      ? await held(
          db<TaskRow>('tasks').where({ id: id.data }).whereIn('class_id', classesOf(db, teacher.id)),
          purpose,
        ).first()
      : undefined;
    if (!task) throw notFound('task');
    return { teacher, task };
  },
  'the live reply’s teacher': async (db, request) => {
    const teacher = await teacherOf(db, request);
    const id = replyId.safeParse(request.params.reply);
    const found: (ReplyRow & Pick<TaskRow, 'about'>) | undefined = id.success
      ? await db('replies')
          .join('tasks', 'tasks.id', 'task_id')
          .where('replies.id', id.data)
          .whereIn('class_id', classesOf(db, teacher.id))
          .first('replies.*', 'about')
      : undefined;
    // Of what is not asked now, a teacher sees nothing before it is handed in.
    if (!found || !readForm('task', found.about).isLive) throw notFound('work');
    return { reply: found };
  },
  'the hand-in’s teacher': async (db, request) => {
    const teacher = await teacherOf(db, request);
    const handIn = await handInBy(db, request, (all) =>
      all.join('students', 'students.id', 'student_id').whereIn('class_id', classesOf(db, teacher.id)),
    );
    return { teacher, ...handIn };
  },
} satisfies Partial<Grants>;

const classesOf = (db: Knex, teacher_id: string) => db('classes').where({ teacher_id }).select('id');

/** The lesson a writer writes in. @throws RequestProblem where it is not theirs */
async function writtenLesson(
  db: Knex,
  { teacher, student }: Writer,
  param: unknown,
  purpose: Purpose,
): Promise<LessonRow> {
  if (!student) return lessonFor(db, teacher, param, purpose);
  const id = lessonId.safeParse(param);
  const reply = id.success ? await replyIn(db, student, id.data) : undefined;
  if (!reply) throw notFound('lesson');
  return (await held(db<LessonRow>('lessons').where({ id: reply.lesson_id }), purpose).first())!;
}

/** What a student is asked to do: all tasks of their class, or the one whose guest they are. */
export const tasksOf = (db: Knex, { class_id, guest_of }: StudentRow) =>
  db<TaskRow>('tasks').where(guest_of === null ? { class_id } : { id: guest_of });

const replyIn = (db: Knex, { id: student_id }: StudentRow, lesson_id: LessonId): Promise<ReplyRow | undefined> =>
  db<ReplyRow>('replies').where({ student_id, lesson_id }).first();

/** What was handed in, of those that are allowed. @throws RequestProblem where it is none of them */
async function handInBy(
  db: Knex,
  request: Request,
  allowed: (handIns: Knex.QueryBuilder) => Knex.QueryBuilder,
): Promise<{ handIn: HandInRow; lesson: LessonRow }> {
  const id = handInId.safeParse(request.params.handIn);
  const found: HandInRow | undefined = id.success
    ? await allowed(db('hand_ins').join('replies', 'replies.id', 'reply_id').where('hand_ins.id', id.data)).first(
        'hand_ins.*',
      )
    : undefined;
  if (!found) throw notFound('work');
  return { handIn: found, lesson: (await db<LessonRow>('lessons').where({ id: found.lesson_id }).first())! };
}
