import type { Knex } from 'knex';

/** The tables as first laid. Types are those that SQLite and PostgreSQL both know. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('teachers', (table) => {
    table.string('id').primary();
    table.string('name').notNullable();
    table.string('email').notNullable().unique();
    table.string('password_hash').notNullable();
    table.string('created_at').notNullable();
  });
  // The columns that connect-session-knex expects.
  await knex.schema.createTable('sessions', (table) => {
    table.string('sid').primary();
    table.json('sess').notNullable();
    table.timestamp('expired').notNullable().index();
  });
  await knex.schema.createTable('assets', (table) => {
    table.string('id', 64).primary();
    table.string('media_type').notNullable();
    table.bigInteger('size_bytes').notNullable();
    table.string('created_at').notNullable();
  });
  await knex.schema.createTable('asset_chunks', (table) => {
    table.string('asset_id', 64).notNullable().references('assets.id').onDelete('CASCADE');
    table.integer('n').notNullable();
    table.binary('bytes').notNullable();
    table.primary(['asset_id', 'n']);
  });
  await knex.schema.createTable('lessons', (table) => {
    table.string('id').primary();
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE').index();
    table.string('title').notNullable();
    table.string('class_name').notNullable();
    table.integer('revision').notNullable();
    table.binary('between_marks').notNullable();
    table.integer('programme_n').notNullable();
    table.string('created_at').notNullable();
    table.string('changed_at').notNullable();
  });
  await knex.schema.createTable('pages', (table) => {
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE');
    table.string('id').notNullable();
    table.integer('position').notNullable();
    table.double('width_pt').notNullable();
    table.double('height_pt').notNullable();
    table.text('paper').notNullable();
    table.binary('pieces').notNullable();
    table.primary(['lesson_id', 'id']);
  });
  // Every programme a lesson ever had: undo goes to an older one, and nothing is written over.
  await knex.schema.createTable('programmes', (table) => {
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE');
    table.integer('n').notNullable();
    table.text('segments').notNullable();
    table.bigInteger('length_samples').notNullable();
    table.string('made_at').notNullable();
    table.primary(['lesson_id', 'n']);
  });
  await knex.schema.createTable('takes', (table) => {
    table.string('id').primary();
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    table.boolean('has_sound').notNullable();
    table.string('started_at').notNullable();
    table.string('ended_at').nullable();
    table.bigInteger('length_samples').notNullable();
    table.string('sound_asset', 64).nullable().references('assets.id');
    table.string('marks_asset', 64).nullable().references('assets.id');
  });
  await knex.schema.createTable('take_parts', (table) => {
    table.string('take_id').notNullable().references('takes.id').onDelete('CASCADE');
    table.integer('n').notNullable();
    table.binary('bytes').notNullable();
    table.primary(['take_id', 'n']);
  });
  await knex.schema.createTable('publications', (table) => {
    table.string('id').primary();
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    table.string('title').notNullable();
    table.integer('programme_n').notNullable();
    table.bigInteger('length_samples').notNullable();
    table.integer('page_count').notNullable();
    table.string('sound_asset', 64).nullable().references('assets.id');
    table.string('payload_asset', 64).notNullable().references('assets.id');
    table.string('made_at').notNullable();
  });
  await knex.schema.createTable('links', (table) => {
    table.string('token').primary();
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE').index();
    table.string('publication_id').notNullable().references('publications.id');
    table.string('made_at').notNullable();
    table.string('withdrawn_at').nullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  const newestFirst = [
    'links',
    'publications',
    'take_parts',
    'takes',
    'programmes',
    'pages',
    'lessons',
    'asset_chunks',
    'assets',
    'sessions',
    'teachers',
  ];
  for (const table of newestFirst) await knex.schema.dropTable(table);
}
