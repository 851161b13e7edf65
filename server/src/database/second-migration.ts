import type { Knex } from 'knex';

/** Pages with edges and sheets, the files a lesson uses, and a lesson's changes one by one. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('pages', (table) => {
    table.double('left_pt').notNullable().defaultTo(0);
    table.double('top_pt').notNullable().defaultTo(0);
    table.text('sheet').nullable();
  });
  await knex.schema.alterTable('lessons', (table) => {
    table.binary('history').nullable();
  });
  // Which files a lesson may use. A file's bytes are stored once, however many lessons use it.
  await knex.schema.createTable('lesson_assets', (table) => {
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE');
    table.string('asset_id', 64).notNullable().references('assets.id');
    table.string('file_name').notNullable();
    table.primary(['lesson_id', 'asset_id']);
  });
  await knex.schema.createTable('publication_assets', (table) => {
    table.string('publication_id').notNullable().references('publications.id').onDelete('CASCADE');
    table.string('asset_id', 64).notNullable().references('assets.id');
    table.primary(['publication_id', 'asset_id']);
  });
  // What a PDF's pages look like, for whoever cannot draw PDFs: watchers' phones, and this server.
  await knex.schema.createTable('sheet_pictures', (table) => {
    table.string('asset_id', 64).notNullable().references('assets.id');
    table.integer('page_index').notNullable();
    table.string('picture_asset', 64).notNullable().references('assets.id');
    table.primary(['asset_id', 'page_index']);
  });
  // The last changes, so that two windows that change a lesson at once are told apart from one that is behind.
  await knex.schema.createTable('lesson_changes', (table) => {
    table.string('lesson_id').notNullable().references('lessons.id').onDelete('CASCADE');
    table.integer('revision').notNullable();
    table.binary('marks').notNullable();
    table.primary(['lesson_id', 'revision']);
  });
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['lesson_changes', 'sheet_pictures', 'publication_assets', 'lesson_assets'])
    await knex.schema.dropTable(table);
  await knex.schema.alterTable('lessons', (table) => table.dropColumn('history'));
  await knex.schema.alterTable('pages', (table) => table.dropColumns('left_pt', 'top_pt', 'sheet'));
}
