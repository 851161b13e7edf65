import type { Ticket } from '@kite-trail/core/contract/account';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { TeacherRow, TicketRow } from '../database/rows';
import { hashOf } from '../http/sessions';
import { RequestProblem } from '../http/problem';
import { addTeacher, setPassword } from './accounts';
import { endSignIns } from './sign-ins';

const HOUR_MS = 3600 * 1000;
/** So long a ticket is good: for a new teacher, and for a new password. */
const JOINING_MS = 7 * 24 * HOUR_MS;
const RESETTING_MS = 24 * HOUR_MS;
/** 192 random bits. */
const CODE_LETTERS = 32;

const gone = () =>
  new RequestProblem(404, 'no-such-ticket', 'This link was used already, or has run out. Ask for a new one.');

/** Makes a ticket: whoever has it becomes a teacher, or sets a teacher's password anew. The older one of that teacher ends. */
export async function makeTicket(db: Knex, teacher: TeacherId | null): Promise<Ticket> {
  const code = nanoid(CODE_LETTERS);
  const now = Date.now();
  const endsAt = new Date(now + (teacher === null ? JOINING_MS : RESETTING_MS)).toISOString();
  await db('tickets').where('ends_at', '<', new Date(now).toISOString()).delete();
  if (teacher !== null) await db('tickets').where({ teacher_id: teacher }).delete();
  await db('tickets').insert({
    code_hash: hashOf(code),
    teacher_id: teacher,
    made_at: new Date(now).toISOString(),
    ends_at: endsAt,
  });
  return { code, endsAt };
}

const good = (db: Knex, code: string) =>
  db<TicketRow>('tickets')
    .where({ code_hash: hashOf(code) })
    .where('ends_at', '>', new Date().toISOString());

/** Whose password a ticket sets anew, or `null`. @throws RequestProblem when it is good no more */
export async function ticketHolder(db: Knex, code: string): Promise<TeacherRow | null> {
  const ticket = await good(db, code).first();
  if (!ticket) throw gone();
  return ticket.teacher_id === null
    ? null
    : (await db<TeacherRow>('teachers').where({ id: ticket.teacher_id }).first())!;
}

/** Spends a ticket. @throws RequestProblem when it is good no more */
async function spend(db: Knex, code: string, isMeant: (ticket: TicketRow) => boolean): Promise<TicketRow> {
  const ticket = await good(db, code).first();
  if (!ticket || !isMeant(ticket)) throw gone();
  // Whoever came first has deleted it.
  if ((await good(db, code).delete()) === 0) throw gone();
  return ticket;
}

/** Makes a teacher of whoever has a ticket. @param db a transaction @throws RequestProblem */
export async function joinSchool(
  db: Knex,
  { code, ...account }: { code: string; name: string; email: string; password: string },
): Promise<TeacherRow> {
  await spend(db, code, ({ teacher_id }) => teacher_id === null);
  return addTeacher(db, account);
}

/** Sets a teacher's password anew, and signs them out everywhere. @param db a transaction @throws RequestProblem */
export async function resetPassword(
  db: Knex,
  { code, password }: { code: string; password: string },
): Promise<TeacherRow> {
  const { teacher_id } = await spend(db, code, ({ teacher_id }) => teacher_id !== null);
  const teacher = (await db<TeacherRow>('teachers').where({ id: teacher_id! }).first())!;
  if (teacher.shut_out_at !== null) throw gone();
  await setPassword(db, teacher, password);
  await endSignIns(db, teacher);
  return teacher;
}
