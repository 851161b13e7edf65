import { keptPens, type KeptPens } from '@kite-trail/core/contract/pens';
import type { Knex } from 'knex';
import type { TeacherRow } from '../database/rows';

/** The teacher's own row of pens, palette and letters. */
export function pensOf({ pen_roll: json }: TeacherRow): KeptPens {
  const kept: unknown = json === null ? { roll: null } : JSON.parse(json);
  // The roll was once kept alone.
  return keptPens.parse(Array.isArray(kept) ? { roll: kept } : kept);
}

export async function keepPens(db: Knex, { id }: TeacherRow, pens: KeptPens): Promise<void> {
  await db('teachers')
    .where({ id })
    .update({ pen_roll: JSON.stringify(pens) });
}
