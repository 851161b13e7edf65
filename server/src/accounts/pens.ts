import type { Pen } from '@kite-trail/core/lesson/piece';
import type { Knex } from 'knex';
import type { TeacherRow } from '../database/rows';

/** The teacher's own row of pens; `null` while they have changed nothing. */
export const pensOf = (teacher: TeacherRow): { roll: Pen[] | null } => ({
  roll: teacher.pen_roll === null ? null : JSON.parse(teacher.pen_roll),
});

export async function keepPens(db: Knex, { id }: TeacherRow, roll: readonly Pen[] | null): Promise<void> {
  await db('teachers')
    .where({ id })
    .update({ pen_roll: roll && JSON.stringify(roll) });
}
