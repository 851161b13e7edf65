import type { ClassTasks, MarkingTable } from '@kite-trail/core/contract/task';
import type { ReplyId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { ClassRow, LessonRow, PageRow, ReplyRow, StudentRow, TaskRow } from '../database/rows';
import { aboutOf } from './about';
import { describeHandIn, lyingWithLength } from './hand-ins';
import { summaryOf } from './tasks';

/** All that was handed in for a task, by student. */
export async function markingTable(db: Knex, task: TaskRow): Promise<MarkingTable> {
  const { id, name } = (await db<ClassRow>('classes').where({ id: task.class_id }).first())!;
  const students = await db<StudentRow>('students')
    .where({ class_id: task.class_id })
    .where((some) => void some.whereNull('guest_of').orWhere({ guest_of: task.id }))
    .orderBy(['name', 'id']);
  const replies: (ReplyRow & Pick<LessonRow, 'changed_at'>)[] = await db('replies')
    .where({ task_id: task.id })
    .join('lessons', 'lessons.id', 'lesson_id')
    .select('replies.*', 'changed_at');
  const lies = await lyingWithLength(db, (all) => all.where({ task_id: task.id }));
  const handedInOnce: ReplyId[] = await db('hand_ins')
    .join('replies', 'replies.id', 'reply_id')
    .where({ task_id: task.id })
    .distinct()
    .pluck('reply_id');
  const about = aboutOf(task);
  const pages = await db<PageRow>('pages').where({ lesson_id: task.sheet_id }).orderBy('position').pluck('id');
  return {
    task: await summaryOf(db, task),
    schoolClass: { id, name },
    pages,
    rows: students.map((student) => {
      const reply = replies.find(({ student_id }) => student_id === student.id);
      const row = reply && lies.find(({ reply_id }) => reply_id === reply.id);
      return {
        student: { id: student.id, name: student.name },
        reply: reply
          ? {
              id: reply.id,
              begunAt: reply.begun_at,
              pictureVersion: Date.parse(reply.changed_at),
              choice: reply.choice,
              handIn: row ? describeHandIn(row, about) : null,
              wasTakenBack: !row && handedInOnce.includes(reply.id),
            }
          : null,
      };
    }),
  };
}

/** What students of a class made unasked and handed in, the newest first. */
export async function listUnasked(db: Knex, { id }: ClassRow): Promise<ClassTasks['unasked']> {
  const students = await db<StudentRow>('students').where({ class_id: id });
  const lies = await lyingWithLength(db, (all) =>
    all
      .whereNull('task_id')
      .whereIn('student_id', db('students').where({ class_id: id }).select('id'))
      .orderBy('handed_at', 'desc'),
  );
  const titles: { id: ReplyId; title: string }[] = await db('replies')
    .join('lessons', 'lessons.id', 'lesson_id')
    .whereIn(
      'replies.id',
      lies.map(({ reply_id }) => reply_id),
    )
    .select('replies.id', 'title');
  return lies.map((row) => {
    const { id: student, name } = students.find((one) => one.id === row.student_id)!;
    const { title } = titles.find((one) => one.id === row.reply_id)!;
    return { student: { id: student, name }, title, handIn: describeHandIn(row, null) };
  });
}
