import type { HandIn, MarkingTable, Reply } from '@kite-trail/core/contract/task';
import type { Knex } from 'knex';
import type { ClassRow, LessonRow, PageRow, ReplyRow, StudentRow, TaskRow } from '../database/rows';
import { describeHandIn, lyingOf } from './hand-ins';
import { summaryOf } from './tasks';

/** All that was handed in for a task, by student. */
export async function markingTable(db: Knex, task: TaskRow): Promise<MarkingTable> {
  const { id, name } = (await db<ClassRow>('classes').where({ id: task.class_id }).first())!;
  const students = await db<StudentRow>('students')
    .where({ class_id: task.class_id })
    .where((some) => void some.whereNull('guest_of').orWhere({ guest_of: task.id }))
    .orderBy(['name', 'id']);
  const replies = await db<ReplyRow>('replies').where({ task_id: task.id });
  const pages = await db<PageRow>('pages').where({ lesson_id: task.sheet_id }).orderBy('position').pluck('id');
  const rowOf = async (student: StudentRow): Promise<MarkingTable['rows'][number]> => {
    const reply = replies.find(({ student_id }) => student_id === student.id);
    return {
      student: { id: student.id, name: student.name },
      reply: reply ? await describeReply(db, reply, task) : null,
    };
  };
  return {
    task: await summaryOf(db, task),
    schoolClass: { id, name },
    pages,
    rows: await Promise.all(students.map(rowOf)),
  };
}

async function describeReply(db: Knex, reply: ReplyRow, task: TaskRow): Promise<Reply> {
  const lies = await lyingOf(db, reply.id);
  const before = await db('hand_ins').where({ reply_id: reply.id }).first('id');
  const draft = (await db<LessonRow>('lessons').where({ id: reply.lesson_id }).first('changed_at'))!;
  return {
    id: reply.id,
    begunAt: reply.begun_at,
    pictureVersion: Date.parse(draft.changed_at),
    choice: reply.choice,
    handIn: lies ? await describeHandIn(db, lies, task) : null,
    wasTakenBack: !lies && before !== undefined,
  };
}

/** What students of a class made unasked and handed in, the newest first. */
export async function listUnasked(
  db: Knex,
  { id }: ClassRow,
): Promise<{ student: { id: StudentRow['id']; name: string }; title: string; handIn: HandIn }[]> {
  const rows: (ReplyRow & { name: string; title: string })[] = await db('replies')
    .join('students', 'students.id', 'student_id')
    .join('lessons', 'lessons.id', 'lesson_id')
    .where({ class_id: id, task_id: null })
    .orderBy('begun_at', 'desc')
    .select('replies.*', 'students.name', 'title');
  const found = await Promise.all(
    rows.map(async (row) => {
      const lies = await lyingOf(db, row.id);
      if (!lies) return [];
      const student = { id: row.student_id, name: row.name };
      return [{ student, title: row.title, handIn: await describeHandIn(db, lies, null) }];
    }),
  );
  return found.flat();
}
