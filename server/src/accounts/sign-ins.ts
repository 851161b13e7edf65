import type { SignIn } from '@kite-trail/core/contract/account';
import type { Knex } from 'knex';
import type { SessionRow, TeacherRow } from '../database/rows';
import { hasEnded } from '../http/sessions';

/** Where a teacher is signed in, last seen first. @param here which one asks, by its hash */
export async function listSignIns(db: Knex, { id }: TeacherRow, here: string): Promise<SignIn[]> {
  const rows = await db<SessionRow>('sessions').where({ teacher_id: id }).orderBy('seen_at', 'desc');
  return rows
    .filter((row) => !hasEnded(row, Date.now()))
    .map(({ id_hash, device, signed_in_at, seen_at }) => ({
      id: id_hash,
      device,
      signedInAt: signed_in_at,
      seenAt: seen_at,
      isThis: id_hash === here,
    }));
}

/** Signs a teacher out: everywhere, or everywhere but here. */
export async function endSignIns(db: Knex, { id }: TeacherRow, here?: string): Promise<void> {
  const ended = db('sessions').where({ teacher_id: id });
  await (here === undefined ? ended : ended.whereNot({ id_hash: here })).delete();
}

/** Signs a teacher out in one place. */
export async function endSignIn(db: Knex, { id }: TeacherRow, idHash: unknown): Promise<void> {
  await db('sessions')
    .where({ teacher_id: id, id_hash: String(idHash) })
    .delete();
}
