import { titleOf } from '@kite-trail/core/contract/lesson';
import type { broughtWork } from '@kite-trail/core/contract/task';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { z } from 'zod';
import { addFile } from '../assets/lesson-files';
import { takeFile, type CheckedUpload } from '../assets/uploads';
import type { StudentRow, TaskRow, TeacherRow } from '../database/rows';
import { badInput, notFound } from '../http/problem';
import { makeLesson, writtenPage } from '../lessons/lessons';
import { aboutOf } from './about';
import { keepHandIn } from './hand-ins';
import { beginReply } from './replies';

/**
 * Lets work that came otherwise, such as by mail, lie with what was handed in, as its student's. What they work on themselves stays as
 * it is. @throws RequestProblem where the student is not of the class, or a page shows another file
 */
export async function bringWork(
  db: Knex,
  teacher: TeacherRow,
  task: TaskRow,
  { student: id, asset, name, pages }: z.output<typeof broughtWork>,
  found: CheckedUpload,
): Promise<LessonId> {
  const student = await db<StudentRow>('students').where({ id, class_id: task.class_id }).first();
  if (!student) throw notFound('student');
  if (pages.some(({ sheet, paper }) => sheet?.asset !== asset || paper.picture !== null)) {
    throw badInput('A page of this work does not show its file.');
  }
  if (new Set(pages.map((page) => page.id)).size < pages.length) throw badInput('Two pages have the same name.');
  await takeFile(db, { teacher, student: null }, asset, found);
  const reply = await beginReply(db, student, task);
  const title = titleOf(`${student.name}: ${aboutOf(task).title}`);
  const states = pages.map((page) => writtenPage({ page, pieces: [] }));
  const lesson = await makeLesson(db, teacher.id, title, states, { aside: 'task' });
  await addFile(db, lesson.id, name, asset);
  await keepHandIn(db, reply, lesson.id, null);
  return lesson.id;
}
