import type { Knex } from 'knex';
import { nanoid } from 'nanoid';

const COLORS = ['kite', 'tail', 'straw', 'sea', 'heather', 'kelp', 'slate', 'coral'];

interface NamedClass {
  teacher_id: string;
  class_name: string;
}

/**
 * Classes are things of their own: a lesson may be in several, and stands in each where its teacher put it. A lesson says what it
 * is about, may be a favourite, and goes into a bin before it goes for good.
 * What can be found in a lesson is kept beside it.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('classes', (table) => {
    table.string('id').primary();
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE').index();
    table.string('name').notNullable();
    table.string('color').notNullable();
    table.string('cover_lesson_id').nullable().references('lessons.id').onDelete('SET NULL');
    table.integer('position').notNullable();
    table.string('archived_at').nullable();
    table.string('made_at').notNullable();
  });
  await knex.schema.createTable('class_lessons', (table) => {
    table.string('class_id').notNullable().references('classes.id').onDelete('CASCADE');
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    table.integer('position').notNullable();
    table.primary(['class_id', 'lesson_id']);
  });
  await knex.schema.createTable('favourites', (table) => {
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE');
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    table.primary(['teacher_id', 'lesson_id']);
  });
  await knex.schema.alterTable('lessons', (table) => {
    table.text('about').nullable();
    table.string('binned_at').nullable().index();
    // The change up to which what can be found in it was read.
    table.string('read_at_change').nullable();
  });
  await knex.schema.createTable('lesson_texts', (table) => {
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE');
    table.integer('n').notNullable();
    table.string('kind').notNullable();
    table.text('text').notNullable();
    table.text('folded').notNullable();
    table.bigInteger('at_samples').nullable();
    table.integer('page').nullable();
    table.primary(['lesson_id', 'n']);
  });
  await makeClasses(knex);
  await knex.raw('ALTER TABLE lessons DROP COLUMN class_name');
}

/** A class for every name that lessons had, with those lessons in the order in which they were made. */
async function makeClasses(knex: Knex): Promise<void> {
  const named = await knex('lessons')
    .whereNot({ class_name: '' })
    .distinct<NamedClass[]>('teacher_id', 'class_name')
    .orderBy(['teacher_id', 'class_name']);
  const made_at = new Date().toISOString();
  const counts = new Map<string, number>();
  for (const { teacher_id, class_name } of named) {
    const position = counts.get(teacher_id) ?? 0;
    counts.set(teacher_id, position + 1);
    const one = {
      id: nanoid(),
      teacher_id,
      name: class_name,
      color: COLORS[position % COLORS.length],
      position,
      made_at,
    };
    await knex('classes').insert({ ...one, cover_lesson_id: null, archived_at: null });
    const lessons: string[] = await knex('lessons').where({ teacher_id, class_name }).orderBy('created_at').pluck('id');
    for (const [at, lesson_id] of lessons.entries()) {
      await knex('class_lessons').insert({ class_id: one.id, lesson_id, position: at });
    }
  }
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`ALTER TABLE lessons ADD COLUMN class_name varchar(255) NOT NULL DEFAULT ''`);
  const placed = await knex('class_lessons')
    .join('classes', 'classes.id', 'class_lessons.class_id')
    .orderBy('classes.position', 'desc')
    .select<{ lesson_id: string; name: string }[]>('lesson_id', 'name');
  for (const { lesson_id, name } of placed) await knex('lessons').where({ id: lesson_id }).update({ class_name: name });
  await knex.schema.alterTable('lessons', (table) => table.dropIndex('binned_at'));
  for (const column of ['about', 'binned_at', 'read_at_change']) {
    await knex.raw(`ALTER TABLE lessons DROP COLUMN ${column}`);
  }
  for (const table of ['lesson_texts', 'favourites', 'class_lessons', 'classes']) await knex.schema.dropTable(table);
}
