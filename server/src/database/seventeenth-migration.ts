import type { Knex } from 'knex';

/** A question may be answered by a recording, which is a lesson of its own. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable(
    'questions',
    (table) => void table.string('answer_lesson').nullable().references('lessons.id').onDelete('SET NULL').index(),
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('questions', (table) => void table.dropColumn('answer_lesson'));
}
