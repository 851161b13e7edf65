import type { Knex } from 'knex';

/** What a centimetre of a page stands for, as JSON. */
export const up = (knex: Knex): Promise<void> =>
  knex.schema.alterTable('pages', (table) => table.text('scale').nullable());

export const down = (knex: Knex): Promise<void> =>
  knex.schema.alterTable('pages', (table) => table.dropColumn('scale'));
