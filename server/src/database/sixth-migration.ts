import type { Knex } from 'knex';

/** Where takes were made to play, as JSON; their names; and since when they are in the bin. */
export const up = (knex: Knex): Promise<void> =>
  knex.schema.alterTable('takes', (table) => {
    table.text('plan').nullable();
    table.text('name').nullable();
    table.text('binned_at').nullable();
  });

export const down = (knex: Knex): Promise<void> =>
  knex.schema.alterTable('takes', (table) => table.dropColumns('plan', 'name', 'binned_at'));
