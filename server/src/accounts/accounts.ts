import type { Session } from '@kite-trail/core/contract/account';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { SessionData } from 'express-session';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import { assetsOf, dropUnnamed } from '../assets/ownership';
import type { TeacherRow } from '../database/rows';
import { conflict, RequestProblem } from '../http/problem';
import { confirm, hashOfNew, isTheirs } from './passwords';
import { leaveToColleagues } from '../handing/leaving';
import { describeStudent } from '../students/students';
import type { SetUpCode } from './set-up';
import { leaveToOthers } from './keepers';

export async function hasTeachers(db: Knex): Promise<boolean> {
  return (await db('teachers').first('id')) !== undefined;
}

interface NewTeacher {
  name: string;
  email: string;
  password: string;
  isKeeper?: boolean;
}

/** Adds a teacher. @throws RequestProblem when the address is somebody's, or the password soon guessed */
export async function addTeacher(
  db: Knex,
  { name, email, password, isKeeper = false }: NewTeacher,
): Promise<TeacherRow> {
  const teacher: TeacherRow = {
    id: nanoid() as TeacherId,
    name,
    email,
    password_hash: await hashOfNew(password, { name, email }),
    pen_roll: null,
    phrases: null,
    created_at: new Date().toISOString(),
    is_keeper: isKeeper,
    shut_out_at: null,
  };
  const added = await db('teachers').insert(teacher).onConflict('email').ignore().returning('id');
  if (added.length === 0) throw addressInUse();
  return teacher;
}

const addressInUse = () => conflict('address-taken', 'Somebody signs in with this e-mail address already.');

/**
 * Adds the teacher whom the first start asks for; they keep the school.
 * @throws RequestProblem when there is one already, or the code is not the one
 */
export async function addFirstTeacher(
  db: Knex,
  setUp: SetUpCode,
  { code, ...account }: NewTeacher & { code: string },
): Promise<TeacherRow> {
  if (await hasTeachers(db)) throw conflict('not-first', 'This school is set up already. Sign in instead.');
  if (!setUp.spend(code)) {
    throw new RequestProblem(
      403,
      'wrong-code',
      'This is not the set-up code. It is printed where the server was started.',
    );
  }
  return addTeacher(db, { ...account, isKeeper: true }).catch((error: unknown) => {
    setUp.giveBack();
    throw error;
  });
}

/** @throws RequestProblem that does not tell which of the two was wrong */
export async function signIn(db: Knex, email: string, password: string): Promise<TeacherRow> {
  const teacher = await db<TeacherRow>('teachers').where({ email }).first();
  if (!(await isTheirs(teacher, password))) {
    throw new RequestProblem(401, 'wrong-credentials', 'This e-mail address and password do not go together.');
  }
  if (teacher!.shut_out_at !== null) {
    throw new RequestProblem(403, 'shut-out', 'You can no longer sign in here. Ask whoever keeps the school.');
  }
  return teacher!;
}

/** @param schoolAccounts what they are called, where there are any */
export async function describeSession(
  db: Knex,
  { teacherId: id, studentId }: Pick<SessionData, 'teacherId' | 'studentId'>,
  schoolAccounts: string | null,
): Promise<Session> {
  const teacher = id ? await db<TeacherRow>('teachers').where({ id }).whereNull('shut_out_at').first() : undefined;
  return {
    needsFirstTeacher: !(await hasTeachers(db)),
    schoolAccounts,
    teacher: teacher
      ? { id: teacher.id, name: teacher.name, email: teacher.email, isKeeper: Boolean(teacher.is_keeper) }
      : null,
    student: studentId ? await describeStudent(db, studentId) : null,
  };
}

/** @throws RequestProblem when the password is not the present one, or the address somebody else's */
export async function changeAccount(
  db: Knex,
  teacher: TeacherRow,
  { name, email, password }: { name: string; email: string; password: string },
): Promise<void> {
  await confirm(teacher, password);
  if (await db('teachers').where({ email }).whereNot({ id: teacher.id }).first('id')) throw addressInUse();
  await db('teachers').where({ id: teacher.id }).update({ name, email });
}

/** @throws RequestProblem when the old password is not the present one, or the new one soon guessed */
export async function changePassword(
  db: Knex,
  teacher: TeacherRow,
  { password, newPassword }: { password: string; newPassword: string },
): Promise<void> {
  await confirm(teacher, password);
  await setPassword(db, teacher, newPassword);
}

/** @throws RequestProblem when it is soon guessed */
export async function setPassword(db: Knex, teacher: TeacherRow, password: string): Promise<void> {
  const password_hash = await hashOfNew(password, teacher);
  await db('teachers').where({ id: teacher.id }).update({ password_hash });
}

/**
 * Deletes a teacher with all that is theirs, for good: lessons, recordings, links, and files that nobody else has. What they work on with
 * colleagues becomes the colleague's who has done so longest.
 * @throws RequestProblem when the password is not the present one, or they alone keep the school for others
 */
export async function deleteAccount(db: Knex, teacher: TeacherRow, password: string): Promise<void> {
  await confirm(teacher, password);
  await leaveToOthers(db, teacher, 'delete');
  await leaveToColleagues(db, teacher);
  const files = await assetsOf(db, teacher.id);
  await db('teachers').where({ id: teacher.id }).delete();
  await dropUnnamed(db, files);
}
