import type { Knex } from 'knex';

/** Letters with links wait until the school's mail server has taken them. */
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
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('mails');
}
