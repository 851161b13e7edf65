import type { Knex } from 'knex';

/** Who keeps the school, who is shut out of it, and codes that let somebody in once. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('teachers', (table) => {
    table.boolean('is_keeper').notNullable().defaultTo(false);
    table.string('shut_out_at').nullable();
  });
  // Whoever set the school up keeps it.
  const first = await knex('teachers').orderBy('created_at').first('id');
  if (first) await knex('teachers').where(first).update({ is_keeper: true });
  await knex.schema.createTable('tickets', (table) => {
    table.string('code_hash', 64).primary();
    table.string('teacher_id').nullable().references('teachers.id').onDelete('CASCADE').index();
    table.string('made_at').notNullable();
    table.string('ends_at').notNullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('tickets');
  await knex.schema.alterTable('teachers', (table) => table.dropColumns('is_keeper', 'shut_out_at'));
}
