import type { Knex } from 'knex';

/**
 * An edition has prompts, and a publication keeps where its own halt. A publication also keeps what it plays of which takes, so that
 * what is counted and asked about it is found again in the lesson as it is later.
 * How links are watched is counted, in sums alone: a visit has a row only while it lasts. Whoever watches may ask.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('programmes', (table) => void table.text('prompts').nullable());
  await knex.schema.alterTable('publications', (table) => {
    table.text('prompts').nullable();
    table.text('programme').nullable();
  });
  await knex.schema.alterTable('lessons', (table) => void table.boolean('is_counted').notNullable().defaultTo(true));
  await knex.schema.createTable('school', (table) => {
    table.integer('id').primary();
    table.boolean('is_counting').notNullable();
  });
  const oneLink = (table: Knex.CreateTableBuilder) =>
    table.string('token').notNullable().references('links.token').onDelete('CASCADE');
  await knex.schema.createTable('visits', (table) => {
    table.string('id').primary();
    oneLink(table).index();
    table.string('publication_id').notNullable().references('publications.id').onDelete('CASCADE');
    table.integer('reports').notNullable();
    table.integer('furthest').notNullable();
    table.integer('stopped').nullable();
    table.string('seen_at').notNullable().index();
  });
  await knex.schema.createTable('visit_sums', (table) => {
    oneLink(table);
    table.string('publication_id').notNullable().references('publications.id').onDelete('CASCADE');
    table.integer('visits').notNullable();
    table.text('sums').notNullable();
    table.primary(['token', 'publication_id']);
  });
  await knex.schema.createTable('visit_days', (table) => {
    oneLink(table);
    table.string('day').notNullable();
    table.integer('visits').notNullable();
    table.integer('heard_seconds').notNullable();
    table.primary(['token', 'day']);
  });
  await knex.schema.createTable('questions', (table) => {
    table.string('id').primary();
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    oneLink(table).index();
    table.string('take_id').notNullable();
    table.bigInteger('take_samples').notNullable();
    table.text('question').notNullable();
    table.string('asked_at').notNullable();
    table.text('answer').nullable();
    table.string('answered_at').nullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['questions', 'visit_days', 'visit_sums', 'visits', 'school']) await knex.schema.dropTable(table);
  const added = { lessons: ['is_counted'], publications: ['prompts', 'programme'], programmes: ['prompts'] };
  for (const [table, columns] of Object.entries(added)) {
    for (const column of columns) await knex.raw(`ALTER TABLE ${table} DROP COLUMN ${column}`);
  }
}
