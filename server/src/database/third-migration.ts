import type { Knex } from 'knex';

/** Pages that a teacher starts pages from, and the files they use. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('page_templates', (table) => {
    table.string('id').primary();
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE').index();
    table.string('name').notNullable();
    table.text('page').notNullable();
    table.binary('pieces').notNullable();
    table.string('made_at').notNullable();
  });
  await knex.schema.createTable('template_assets', (table) => {
    table.string('template_id').notNullable().references('page_templates.id').onDelete('CASCADE');
    table.string('asset_id', 64).notNullable().references('assets.id');
    table.string('file_name').notNullable();
    table.primary(['template_id', 'asset_id']);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('template_assets');
  await knex.schema.dropTable('page_templates');
}
