import type { Knex } from 'knex';

/**
 * How many parts a take was made of, and which take was made of the beginning of one that seemed to have broken off. What
 * PDFs' pages look like: to each teacher, and in each publication.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('takes', (table) => {
    table.integer('part_count').nullable();
    table.string('kept_as').nullable();
  });
  await knex.schema.createTable('teacher_sheets', (table) => {
    table.string('teacher_id').notNullable().references('teachers.id').onDelete('CASCADE');
    table.string('asset_id', 64).notNullable().references('assets.id');
    table.integer('page_index').notNullable();
    table.string('picture_asset', 64).notNullable().references('assets.id');
    table.primary(['teacher_id', 'asset_id', 'page_index']);
  });
  await knex.schema.createTable('publication_sheets', (table) => {
    table.string('publication_id').notNullable().references('publications.id').onDelete('CASCADE');
    table.string('asset_id', 64).notNullable().references('assets.id');
    table.integer('page_index').notNullable();
    table.string('picture_asset', 64).notNullable().references('assets.id');
    table.primary(['publication_id', 'asset_id', 'page_index']);
  });
  const known = ['sheet_pictures.asset_id', 'page_index', 'picture_asset'];
  for (const [assets, owners, of] of [
    ['lesson_assets', 'lessons', 'lesson_id'],
    ['template_assets', 'page_templates', 'template_id'],
  ]) {
    const theirs = await knex('sheet_pictures')
      .join(assets, `${assets}.asset_id`, 'sheet_pictures.asset_id')
      .join(owners, `${owners}.id`, `${assets}.${of}`)
      .distinct('teacher_id', ...known);
    for (const row of theirs)
      await knex('teacher_sheets').insert(row).onConflict(['teacher_id', 'asset_id', 'page_index']).ignore();
  }
  const published = await knex('sheet_pictures')
    .join('publication_assets', 'publication_assets.asset_id', 'sheet_pictures.asset_id')
    .select('publication_id', ...known);
  for (const row of published) await knex('publication_sheets').insert(row);
  await knex.schema.dropTable('sheet_pictures');
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.createTable('sheet_pictures', (table) => {
    table.string('asset_id', 64).notNullable().references('assets.id');
    table.integer('page_index').notNullable();
    table.string('picture_asset', 64).notNullable().references('assets.id');
    table.primary(['asset_id', 'page_index']);
  });
  const rows = await knex('teacher_sheets').select('asset_id', 'page_index', 'picture_asset');
  for (const row of rows) await knex('sheet_pictures').insert(row).onConflict(['asset_id', 'page_index']).ignore();
  await knex.schema.dropTable('publication_sheets');
  await knex.schema.dropTable('teacher_sheets');
  await knex.schema.alterTable('takes', (table) => table.dropColumns('part_count', 'kept_as'));
}
