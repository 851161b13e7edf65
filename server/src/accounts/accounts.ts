import type { Session } from '@kite-trail/core/contract/account';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import { hash, verify } from 'argon2';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { TeacherRow } from '../database/rows';
import { conflict, RequestProblem } from '../http/problem';
import type { SetUpCode } from './set-up';

export async function hasTeachers(db: Knex): Promise<boolean> {
  return (await db('teachers').first('id')) !== undefined;
}

/** Adds a teacher; the password is kept only as an argon2id hash. */
export async function addTeacher(
  db: Knex,
  { name, email, password }: { name: string; email: string; password: string },
): Promise<TeacherRow> {
  const teacher: TeacherRow = {
    id: nanoid() as TeacherId,
    name,
    email,
    password_hash: await hash(password),
    pen_roll: null,
    created_at: new Date().toISOString(),
  };
  await db('teachers').insert(teacher);
  return teacher;
}

/**
 * Adds the teacher whom the first start asks for.
 * @throws RequestProblem when there is one already, or the code is not the one
 */
export async function addFirstTeacher(
  db: Knex,
  setUp: SetUpCode,
  { code, ...account }: Parameters<typeof addTeacher>[1] & { code: string },
): Promise<TeacherRow> {
  if (await hasTeachers(db)) throw conflict('not-first', 'This school is set up already. Sign in instead.');
  if (!setUp.spend(code)) {
    throw new RequestProblem(
      403,
      'wrong-code',
      'This is not the set-up code. It is printed where the server was started.',
    );
  }
  return addTeacher(db, account).catch((error: unknown) => {
    setUp.giveBack();
    throw error;
  });
}

/** @throws RequestProblem that does not tell which of the two was wrong */
export async function signIn(db: Knex, email: string, password: string): Promise<TeacherRow> {
  const teacher = await db<TeacherRow>('teachers').where({ email }).first();
  // A hash is checked in either case, so that the time taken does not tell whether the address is known.
  const known = await verify(teacher?.password_hash ?? (await decoy), password);
  if (!teacher || !known) {
    throw new RequestProblem(401, 'wrong-credentials', 'This e-mail address and password do not go together.');
  }
  return teacher;
}

const decoy = hash(nanoid());

export async function describeSession(db: Knex, teacherId: string | undefined): Promise<Session> {
  const teacher = teacherId
    ? await db<TeacherRow>('teachers')
        .where({ id: teacherId as TeacherId })
        .first()
    : undefined;
  return {
    needsFirstTeacher: !(await hasTeachers(db)),
    teacher: teacher ? { id: teacher.id, name: teacher.name, email: teacher.email } : null,
  };
}
