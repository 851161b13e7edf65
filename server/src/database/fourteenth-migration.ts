import type { Knex } from 'knex';

/**
 * A lesson has any number of links, each with rules of its own. A publication may be of a part, and says how loud it is. A class has a
 * page. A copy names the lesson it was made of.
 * All that is found in a lesson stands in one row, to be looked through quickly: lessons are read for it anew.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('publications', (table) => {
    table.text('part').nullable();
    table.binary('loudness').nullable();
    table.string('picture_asset', 64).nullable().references('assets.id');
  });
  await knex.schema.alterTable('links', (table) => {
    table.string('name').notNullable().defaultTo('');
    table.string('class_id').nullable().references('classes.id').onDelete('SET NULL').index();
    table.boolean('is_listed').notNullable().defaultTo(false);
    table.text('rules').nullable();
    table.string('passcode_hash').nullable();
    table.string('ends_at').nullable();
    table.text('part').nullable();
    table.string('last_watched_on').nullable();
    table.string('leads_since').notNullable().defaultTo('');
  });
  await knex('links').update({ leads_since: knex.ref('made_at') });
  await knex.schema.alterTable('lessons', (table) => {
    table.text('source').nullable();
  });
  await knex.schema.createTable('lesson_words', (table) => {
    table.string('lesson_id').primary().references('lessons.id').onDelete('CASCADE');
    table.text('head').notNullable();
    table.text('body').notNullable();
  });
  await knex('lessons').update({ read_at_change: null });
  await knex.schema.alterTable('classes', (table) => {
    table.string('page_token').nullable().unique();
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('lesson_words');
  await knex.schema.alterTable('classes', (table) => table.dropUnique(['page_token']));
  await knex.schema.alterTable('links', (table) => table.dropIndex('class_id'));
  const added = {
    classes: ['page_token'],
    lessons: ['source'],
    links: [
      'name',
      'class_id',
      'is_listed',
      'rules',
      'passcode_hash',
      'ends_at',
      'part',
      'last_watched_on',
      'leads_since',
    ],
    publications: ['part', 'loudness', 'picture_asset'],
  };
  for (const [table, columns] of Object.entries(added)) {
    for (const column of columns) await knex.raw(`ALTER TABLE ${table} DROP COLUMN ${column}`);
  }
}
