import type { Knex } from 'knex';

/** Pages that are shown live, and which files those who follow may see. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('live_pages', (table) => {
    table.string('teacher_id').primary().references('teachers.id').onDelete('CASCADE');
    table.string('token').notNullable().unique();
    table.string('code').notNullable().unique();
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    table.string('key_hash').notNullable();
    table.string('shown_at').notNullable();
  });
  await knex.schema.createTable('live_files', (table) => {
    table.string('token').notNullable().references('live_pages.token').onDelete('CASCADE');
    table.string('asset_id').notNullable();
    table.integer('page_index').notNullable();
    table.primary(['token', 'asset_id', 'page_index']);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('live_files');
  await knex.schema.dropTable('live_pages');
}
