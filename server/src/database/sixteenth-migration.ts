import type { Knex } from 'knex';

/**
 * Letters with links wait until the school's mail server has taken them. Colleagues may work on a lesson; what can be undone of it is
 * whose steps they were. The school's accounts know teachers by names of their own.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('mails', (table) => {
    table.string('id').primary();
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE').index();
    table.string('token').notNullable().references('links.token').onDelete('CASCADE').index();
    table.string('sent_to').notNullable();
    table.text('note').notNullable();
    table.string('origin').notNullable();
    table.string('made_at').notNullable();
    table.string('done_at').nullable();
    table.string('next_try_at').nullable().index();
    table.integer('tries').notNullable();
    table.text('why').nullable();
  });
  await knex.schema.createTable('lesson_colleagues', (table) => {
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE');
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE').index();
    table.string('since').notNullable();
    table.primary(['lesson_id', 'teacher_id']);
  });
  await knex.schema.alterTable('lessons', (table) => void table.string('history_of').nullable());
  await knex.schema.createTable('identities', (table) => {
    table.string('issuer').notNullable();
    table.string('subject').notNullable();
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE').index();
    table.string('since').notNullable();
    table.primary(['issuer', 'subject']);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE lessons DROP COLUMN history_of');
  for (const table of ['identities', 'lesson_colleagues', 'mails']) await knex.schema.dropTable(table);
}
