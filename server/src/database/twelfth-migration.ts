import type { Knex } from 'knex';

/**
 * A file that is on its way comes as chunks of an asset without a name, so that nothing has to be copied when it is whole: it then
 * gets its name, and keeps its chunks. What was on its way before comes again.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.dropTable('upload_parts');
  await knex.schema.alterTable('assets', (table) => table.string('chunks_of', 64).nullable());
  await knex.schema.createTable('uploads', (table) => {
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE');
    table.string('asset_id', 64).notNullable();
    table.string('chunks_of', 64).notNullable().references('assets.id');
    table.integer('changes').notNullable();
    table.string('came_at').notNullable().index();
    table.primary(['teacher_id', 'asset_id']);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('uploads');
  await knex.schema.alterTable('assets', (table) => table.dropColumn('chunks_of'));
  await knex.schema.createTable('upload_parts', (table) => {
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE');
    table.string('asset_id', 64).notNullable();
    table.integer('n').notNullable();
    table.binary('bytes').notNullable();
    table.string('came_at').notNullable().index();
    table.primary(['teacher_id', 'asset_id', 'n']);
  });
}
