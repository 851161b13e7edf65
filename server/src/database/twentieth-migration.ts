import type { Knex } from 'knex';

/** Students by name, what they are given to do, what they make of it and hand in, and what they get back. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('tasks', (table) => {
    table.string('id').primary();
    table.string('class_id').notNullable().references('classes.id').onDelete('CASCADE').index();
    table.string('sheet_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    table.text('about').notNullable();
    table.string('code').notNullable().unique();
    table.string('made_at').notNullable();
    table.string('closed_at').nullable();
  });
  await knex.schema.createTable('students', (table) => {
    table.string('id').primary();
    table.string('class_id').notNullable().references('classes.id').onDelete('CASCADE').index();
    table.string('name').notNullable();
    table.string('key').notNullable().unique();
    table.string('made_at').notNullable();
    table.string('seen_at').nullable();
    table.string('guest_of').nullable().references('tasks.id').onDelete('CASCADE').index();
  });
  await knex.schema.createTable('student_sessions', (table) => {
    table.string('id_hash').primary();
    table.string('student_id').notNullable().references('students.id').onDelete('CASCADE').index();
    table.string('signed_in_at').notNullable();
    table.string('seen_at').notNullable();
  });
  await knex.schema.createTable('replies', (table) => {
    table.string('id').primary();
    table.string('task_id').nullable().references('tasks.id').onDelete('CASCADE').index();
    table.string('student_id').notNullable().references('students.id').onDelete('CASCADE').index();
    table.string('lesson_id').notNullable().unique().references('lessons.id').onDelete('CASCADE');
    table.string('begun_at').notNullable();
    table.integer('choice').nullable();
    table.unique(['task_id', 'student_id']);
  });
  await knex.schema.createTable('hand_ins', (table) => {
    table.string('id').primary();
    table.string('reply_id').notNullable().references('replies.id').onDelete('CASCADE').index();
    table.string('lesson_id').notNullable().unique().references('lessons.id').onDelete('CASCADE');
    table.string('handed_at').notNullable();
    table.string('said_at').nullable();
    table.integer('choice').nullable();
    table.string('taken_back_at').nullable();
    table.string('opened_at').nullable();
    table.text('marking').nullable();
    table.text('given_marking').nullable();
    table.text('answer').nullable();
    table.string('given_at').nullable();
    table.string('seen_at').nullable();
  });
  await knex.schema.createTable('given_pages', (table) => {
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE');
    table.string('page_id').notNullable();
    table.integer('position').notNullable();
    table.string('picture_asset', 64).notNullable().references('assets.id');
    table.primary(['lesson_id', 'page_id']);
  });
  await knex.schema.alterTable('lessons', (table) => table.string('aside').nullable());
  await knex.schema.alterTable('teachers', (table) => table.text('phrases').nullable());
  await knex.schema.alterTable('school', (table) => table.integer('students_kept_days').nullable());
}

export async function down(knex: Knex): Promise<void> {
  // Knex would make SQLite's tables anew, and with the old ones all that refers to them would go.
  await knex('lessons').whereNotNull('aside').delete();
  await knex.raw('ALTER TABLE teachers DROP COLUMN phrases');
  await knex.raw('ALTER TABLE school DROP COLUMN students_kept_days');
  await knex.raw('ALTER TABLE lessons DROP COLUMN aside');
  for (const table of ['given_pages', 'hand_ins', 'replies', 'student_sessions', 'students', 'tasks'])
    await knex.schema.dropTable(table);
}
