import type { Knex } from 'knex';

/**
 * All else that an edit decides, as JSON: of ink, chapters, captions and sound only what that edit changed. Editions that were
 * given a name. What watchers read along.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('programmes', (table) => {
    for (const part of ['ink_edits', 'chapters', 'captions', 'sound']) table.text(part).nullable();
  });
  await knex.schema.createTable('versions', (table) => {
    table.string('id').primary();
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    table.string('name').notNullable();
    table.text('edition').notNullable();
    table.bigInteger('length_samples').notNullable();
    table.string('made_at').notNullable();
  });
  // What is known of a take's voice, so that nobody needs to listen to all of it again.
  await knex.schema.alterTable('takes', (table) => {
    table.string('profile_asset', 64).nullable().references('assets.id');
  });
  await knex.schema.alterTable('publications', (table) => {
    table.text('chapters').nullable();
    table.text('captions').nullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('publications', (table) => table.dropColumns('chapters', 'captions'));
  await knex.schema.alterTable('takes', (table) => table.dropColumn('profile_asset'));
  await knex.schema.dropTable('versions');
  await knex.schema.alterTable('programmes', (table) =>
    table.dropColumns('ink_edits', 'chapters', 'captions', 'sound'),
  );
}
