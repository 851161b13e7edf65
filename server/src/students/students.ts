import { MOST_STUDENTS, STUDENT_KEY_LENGTH, type Student, type StudentSelf } from '@kite-trail/core/contract/student';
import type { ClassId, StudentId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { ClassRow, StudentRow, TaskRow } from '../database/rows';
import { randomLetters } from '../http/codes';
import { badInput, conflict, RequestProblem } from '../http/problem';

/** The students of a class, by name. */
export async function listStudents(db: Knex, { id }: ClassRow): Promise<Student[]> {
  const rows = await ofClass(db, id).orderBy(['name', 'id']);
  // Whoever has come in once comes again without their key, for as long as their device knows them.
  const devices: { student_id: StudentId; seen_at: string }[] = await db('student_sessions')
    .join('students', 'students.id', 'student_id')
    .where({ class_id: id })
    .groupBy('student_id')
    .select('student_id')
    .max({ seen_at: 'student_sessions.seen_at' });
  const seen = new Map(devices.map(({ student_id, seen_at }) => [student_id, seen_at]));
  return rows.map(({ id: student, name, key, seen_at }) => ({
    id: student,
    name,
    key,
    seenAt: seen.get(student) ?? seen_at,
  }));
}

/** Who is in a class; not those who do one of its tasks as guests. */
export const ofClass = (db: Knex, class_id: ClassId) => db<StudentRow>('students').where({ class_id, guest_of: null });

/** Writes names down in a class. @throws RequestProblem where it has no room, or knows somebody by such a name already */
export async function addStudents(db: Knex, { id: class_id }: ClassRow, names: readonly string[]): Promise<void> {
  const known: string[] = await ofClass(db, class_id).pluck('name');
  if (known.length + names.length > MOST_STUDENTS) throw badInput(`A class has room for ${MOST_STUDENTS} names.`);
  const taken = new Set(known);
  for (const name of names) {
    if (taken.has(name)) throw nameTaken(name);
    taken.add(name);
    const made_at = new Date().toISOString();
    const row: StudentRow = {
      id: nanoid() as StudentId,
      class_id,
      name,
      key: newKey(),
      made_at,
      seen_at: null,
      guest_of: null,
    };
    await db('students').insert(row);
  }
}

/** @throws RequestProblem where the class knows somebody else by that name */
export async function renameStudent(db: Knex, { id, class_id }: StudentRow, name: string): Promise<void> {
  if (await ofClass(db, class_id).where({ name }).whereNot({ id }).first('id')) throw nameTaken(name);
  await db('students').where({ id }).update({ name });
}

const nameTaken = (name: string) =>
  conflict('name-taken', `“${name}” is in this class already. Add a letter, so that they can be told apart.`);

/** Gives a student another key: the one they had, and whoever came in by it, leads nowhere any more. */
export async function renewKey(db: Knex, { id }: StudentRow): Promise<void> {
  await db('students').where({ id }).update({ key: newKey() });
  await db('student_sessions').where({ student_id: id }).delete();
}

const newKey = (): string => randomLetters(STUDENT_KEY_LENGTH);

/** So many guests do one task. */
const MOST_GUESTS = 200;

/** Somebody who does one task alone, under a name they write. @throws RequestProblem where too many do */
export async function addGuest(db: Knex, { id: guest_of, class_id }: TaskRow, name: string): Promise<StudentRow> {
  const guests = await db('students').where({ guest_of }).count({ count: '*' }).first();
  if (Number(guests?.count) >= MOST_GUESTS) throw conflict('full', 'Too many answer already. Ask your teacher.');
  const now = new Date().toISOString();
  const guest: StudentRow = {
    id: nanoid() as StudentId,
    class_id,
    name,
    key: newKey(),
    made_at: now,
    seen_at: now,
    guest_of,
  };
  await db('students').insert(guest);
  return guest;
}

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
