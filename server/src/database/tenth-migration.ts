import type { Knex } from 'knex';

/** Files that are on their way, part by part; and who is signed in where, in the place of sessions as a library kept them. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('upload_parts', (table) => {
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE');
    table.string('asset_id', 64).notNullable();
    table.integer('n').notNullable();
    table.binary('bytes').notNullable();
    table.string('came_at').notNullable().index();
    table.primary(['teacher_id', 'asset_id', 'n']);
  });
  await knex.schema.dropTable('sessions');
  await knex.schema.createTable('sessions', (table) => {
    table.string('id_hash', 64).primary();
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE').index();
    table.string('device').notNullable();
    table.string('signed_in_at').notNullable();
    table.string('seen_at').notNullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('upload_parts');
  await knex.schema.dropTable('sessions');
  await knex.schema.createTable('sessions', (table) => {
    table.string('sid').primary();
    table.json('sess').notNullable();
    table.timestamp('expired').notNullable().index();
  });
}
