import { randomInt } from 'node:crypto';
import { CODE_LETTERS } from '@kite-trail/core/contract/live';
import { MOST_STUDENTS, STUDENT_KEY_LENGTH, type Student, type StudentSelf } from '@kite-trail/core/contract/student';
import type { StudentId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { ClassRow, StudentRow } from '../database/rows';
import { badInput, conflict, RequestProblem } from '../http/problem';

/** The students of a class, by name. */
export async function listStudents(db: Knex, { id }: ClassRow): Promise<Student[]> {
  const rows = await db<StudentRow>('students').where({ class_id: id }).orderBy(['name', 'id']);
  return rows.map(({ id: student, name, key, seen_at }) => ({ id: student, name, key, seenAt: seen_at }));
}

/** Writes names down in a class. @throws RequestProblem where it has no room, or knows somebody by such a name already */
export async function addStudents(db: Knex, { id: class_id }: ClassRow, names: readonly string[]): Promise<void> {
  const known: string[] = await db<StudentRow>('students').where({ class_id }).pluck('name');
  if (known.length + names.length > MOST_STUDENTS) throw badInput(`A class has room for ${MOST_STUDENTS} names.`);
  const taken = new Set(known);
  for (const name of names) {
    if (taken.has(name)) throw nameTaken(name);
    taken.add(name);
    const made_at = new Date().toISOString();
    const row: StudentRow = { id: nanoid() as StudentId, class_id, name, key: newKey(), made_at, seen_at: null };
    await db('students').insert(row);
  }
}

/** @throws RequestProblem where the class knows somebody else by that name */
export async function renameStudent(db: Knex, { id, class_id }: StudentRow, name: string): Promise<void> {
  if (await db('students').where({ class_id, name }).whereNot({ id }).first('id')) throw nameTaken(name);
  await db('students').where({ id }).update({ name });
}

const nameTaken = (name: string) =>
  conflict('name-taken', `“${name}” is in this class already. Add a letter, so that they can be told apart.`);

/** Gives a student another key: the one they had, and whoever came in by it, leads nowhere any more. */
export async function renewKey(db: Knex, { id }: StudentRow): Promise<void> {
  await db('students').where({ id }).update({ key: newKey() });
  await db('student_sessions').where({ student_id: id }).delete();
}

const newKey = (): string =>
  Array.from({ length: STUDENT_KEY_LENGTH }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join('');

/** The student a key is. @throws RequestProblem where it is nobody's */
export async function studentByKey(db: Knex, key: string): Promise<StudentRow> {
  const found = await db<StudentRow>('students').where({ key }).first();
  if (!found) {
    throw new RequestProblem(
      404,
      'no-such-key',
      'Nobody has this key. Look whether it is all there, or ask your teacher for it.',
    );
  }
  await db('students').where({ id: found.id }).update({ seen_at: new Date().toISOString() });
  return found;
}

/** Who a student is; `null` where they are in no class any more. */
export async function describeStudent(db: Knex, id: StudentId): Promise<StudentSelf | null> {
  const found: StudentSelf | undefined = await db('students')
    .join('classes', 'classes.id', 'class_id')
    .where('students.id', id)
    .first('students.id', 'students.name', { schoolClass: 'classes.name' });
  return found ?? null;
}
