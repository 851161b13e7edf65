import type { Request } from 'express';
import type { Knex } from 'knex';
import type { StudentRow, TeacherRow } from '../database/rows';
import { notFound, RequestProblem, signInFirst } from './problem';
import './session-data';

/** Who is about to change something keeps everybody else from changing it until the transaction has ended. */
export type Purpose = 'to read' | 'to change';

/** The teacher who calls. @throws RequestProblem 401 for a stranger */
export async function teacherOf(db: Knex, request: Request): Promise<TeacherRow> {
  const id = request.session?.teacherId;
  const teacher = id ? await db<TeacherRow>('teachers').where({ id }).whereNull('shut_out_at').first() : undefined;
  if (!teacher) throw signInFirst();
  return teacher;
}

/** What keepers do is not there for others. */
export async function keeperOf(db: Knex, request: Request): Promise<TeacherRow> {
  const teacher = await teacherOf(db, request);
  if (!teacher.is_keeper) throw notFound('page');
  return teacher;
}

/** The student who calls. @throws RequestProblem 401 for anybody else */
export async function studentOf(db: Knex, request: Request): Promise<StudentRow> {
  const id = request.session?.studentId;
  const student = id ? await db<StudentRow>('students').where({ id }).first() : undefined;
  if (!student) throw new RequestProblem(401, 'key-first', 'Open your own link, or write your key, to go on.');
  return student;
}

/** Who writes, and whose it is to keep: a teacher's own, or a student's, which their class's teacher keeps for them. */
export interface Writer {
  teacher: TeacherRow;
  student: StudentRow | null;
}

/** @throws RequestProblem 401 for a stranger */
export async function writerOf(db: Knex, request: Request): Promise<Writer> {
  if (request.session?.studentId === undefined) return { teacher: await teacherOf(db, request), student: null };
  const student = await studentOf(db, request);
  const teacher: TeacherRow = await db('classes')
    .join('teachers', 'teachers.id', 'classes.teacher_id')
    .where('classes.id', student.class_id)
    .first('teachers.*');
  return { teacher, student };
}

/** In PostgreSQL rows are locked until the transaction ends. SQLite has one writer, and needs no locks. */
export const held = <Query extends Knex.QueryBuilder>(query: Query, purpose: Purpose): Query =>
  purpose === 'to change' ? (query.forUpdate() as Query) : query;
