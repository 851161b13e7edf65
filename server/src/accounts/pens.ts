import type { KeptPens } from '@kite-trail/core/contract/pens';
import type { Knex } from 'knex';
import type { TeacherRow } from '../database/rows';

/** The teacher's own row of pens and palette. */
export function pensOf({ pen_roll: json }: TeacherRow): KeptPens {
  if (json === null) return { roll: null, palette: null };
  const kept = JSON.parse(json);
  // The roll was once kept alone.
  return Array.isArray(kept) ? { roll: kept, palette: null } : kept;
}

export async function keepPens(db: Knex, { id }: TeacherRow, pens: KeptPens): Promise<void> {
  await db('teachers')
    .where({ id })
    .update({ pen_roll: JSON.stringify(pens) });
}
