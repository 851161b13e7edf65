import type { Colleague } from '@kite-trail/core/contract/account';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { TeacherRow } from '../database/rows';
import { conflict } from '../http/problem';

/** All teachers of the school, by name. */
export async function listColleagues(db: Knex): Promise<Colleague[]> {
  const teachers = await db<TeacherRow>('teachers').orderBy(['name', 'id']);
  const seen: { teacher_id: TeacherId; seen_at: string }[] = await db('sessions')
    .groupBy('teacher_id')
    .select('teacher_id')
    .max({ seen_at: 'seen_at' });
  const seenAt = new Map(seen.map((row) => [row.teacher_id, row.seen_at]));
  return teachers.map(({ id, name, email, is_keeper, shut_out_at }) => ({
    id,
    name,
    email,
    isKeeper: Boolean(is_keeper),
    isShutOut: shut_out_at !== null,
    seenAt: seenAt.get(id) ?? null,
  }));
}

/**
 * Makes a teacher a keeper or none, shuts them out or lets them in again.
 * @throws RequestProblem when nobody would keep the school any more
 */
export async function changeColleague(
  db: Knex,
  colleague: TeacherRow,
  { isKeeper, isShutOut }: { isKeeper: boolean; isShutOut: boolean },
): Promise<void> {
  if (!isKeeper || isShutOut) await leaveToOthers(db, colleague, 'stay');
  await db('teachers')
    .where({ id: colleague.id })
    .update({
      is_keeper: isKeeper,
      shut_out_at: isShutOut ? (colleague.shut_out_at ?? new Date().toISOString()) : null,
    });
  if (isShutOut) await db('sessions').where({ teacher_id: colleague.id }).delete();
}

/**
 * Makes sure that somebody else keeps the school when a teacher no longer does.
 * @param then whether the teacher stays in the school; the last of all may leave it empty
 * @throws RequestProblem when nobody would
 */
export async function leaveToOthers(db: Knex, { id }: TeacherRow, then: 'stay' | 'delete'): Promise<void> {
  const keepers = await db<TeacherRow>('teachers')
    .where({ is_keeper: true })
    .whereNull('shut_out_at')
    .orderBy('id')
    .forNoKeyUpdate();
  if (keepers.some((keeper) => keeper.id !== id) || keepers.length === 0) return;
  if (then === 'delete' && !(await db('teachers').whereNot({ id }).first('id'))) return;
  throw conflict('last-keeper', 'Somebody has to keep the school. Make another teacher a keeper first.');
}
