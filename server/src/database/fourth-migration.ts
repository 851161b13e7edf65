import type { Knex } from 'knex';

/** Teachers' own pens, as JSON. */
export const up = (knex: Knex): Promise<void> =>
  knex.schema.alterTable('teachers', (table) => table.text('pen_roll').nullable());

export const down = (knex: Knex): Promise<void> =>
  knex.schema.alterTable('teachers', (table) => table.dropColumn('pen_roll'));
