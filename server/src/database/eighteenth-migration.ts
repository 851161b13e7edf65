import type { Knex } from 'knex';

/** Teachers open the school's shared drives by names and passwords of their own; these are kept sealed. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('drive_accounts', (table) => {
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE');
    table.string('drive').notNullable();
    table.string('user_name').notNullable();
    table.binary('sealed_password').notNullable();
    table.string('since').notNullable();
    table.primary(['teacher_id', 'drive']);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('drive_accounts');
}
