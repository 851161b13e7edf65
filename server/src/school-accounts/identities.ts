import { randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { joinSchool } from '../accounts/tickets';
import type { IdentityRow, TeacherRow } from '../database/rows';
import { RequestProblem } from '../http/problem';
import type { SchoolPerson } from './provider';

const PASSWORD_BYTES = 32;

/**
 * The teacher somebody is. Whoever comes for the first time is known by the address that the school's accounts have verified, or joins
 * with a ticket; from then on by what never changes of them, so that an address which is given to somebody else opens nothing.
 * @throws RequestProblem where they are nobody here, somebody else, or shut out
 */
export async function teacherBy(db: Knex, person: SchoolPerson, ticket: string | null): Promise<TeacherRow> {
  const { issuer, subject } = person;
  const known = await db<IdentityRow>('identities').where({ issuer, subject }).first();
  const teacher = known
    ? (await db<TeacherRow>('teachers').where({ id: known.teacher_id }).first())!
    : await firstTime(db, person, ticket);
  if (teacher.shut_out_at !== null) throw new RequestProblem(403, 'shut-out', 'You can no longer sign in here.');
  return teacher;
}

async function firstTime(db: Knex, person: SchoolPerson, ticket: string | null): Promise<TeacherRow> {
  const { issuer, subject, email } = person;
  const found = email === null ? undefined : await db<TeacherRow>('teachers').where({ email }).forUpdate().first();
  if (!found && ticket === null) throw new RequestProblem(403, 'nobody', 'Nobody with this account teaches here.');
  const teacher = found ?? (await join(db, person, ticket!));
  const other = await db<IdentityRow>('identities').where({ issuer, teacher_id: teacher.id }).first();
  if (other) throw new RequestProblem(403, 'somebody-else', 'This address was another account’s before.');
  const since = new Date().toISOString();
  await db('identities').insert({ issuer, subject, teacher_id: teacher.id, since } satisfies IdentityRow);
  return teacher;
}

/** Whoever joins by the school's accounts has no password until a keeper gives them a link to set one. */
function join(db: Knex, { name, email }: SchoolPerson, code: string): Promise<TeacherRow> {
  if (email === null) throw new RequestProblem(403, 'no-address', 'The school’s accounts know no address of yours.');
  return joinSchool(db, {
    code,
    name: name || email,
    email,
    password: randomBytes(PASSWORD_BYTES).toString('base64url'),
  });
}
