import type { Knex } from 'knex';

/**
 * Answers that are repeated when a request comes again; which window made a change, for its own do not stand in its way; from
 * which edit a take went into the bin, and on which revision of the pages it began.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('kept_answers', (table) => {
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE');
    table.string('key').notNullable();
    table.string('fingerprint').notNullable();
    table.binary('answer').nullable();
    table.string('kept_at').notNullable().index();
    table.primary(['teacher_id', 'key']);
  });
  await knex.schema.alterTable('lesson_changes', (table) => {
    table.string('window').notNullable().defaultTo('');
  });
  await knex.schema.alterTable('takes', (table) => {
    table.integer('binned_from').nullable();
    table.integer('begun_revision').nullable();
    table.string('window').notNullable().defaultTo('');
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('takes', (table) => table.dropColumns('binned_from', 'begun_revision', 'window'));
  await knex.schema.alterTable('lesson_changes', (table) => table.dropColumn('window'));
  await knex.schema.dropTable('kept_answers');
}
