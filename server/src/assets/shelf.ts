import type { FileUse } from '@kite-trail/core/lesson/files';
import type { AssetId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import type { LessonAssetRow, LessonRow, TeacherSheetRow, TemplateAssetRow, TemplateRow } from '../database/rows';

/** The files of a lesson or a template. Whatever else its pages and recordings name, by its hash, is not there for them. */
export class Shelf {
  private constructor(
    private readonly files: ReadonlySet<AssetId>,
    /** What the PDFs' pages look like. */
    private readonly sheets: ReadonlyMap<string, AssetId>,
  ) {}

  static async ofLesson(db: Knex, { id, teacher_id }: LessonRow): Promise<Shelf> {
    return Shelf.of(db, teacher_id, await db<LessonAssetRow>('lesson_assets').where({ lesson_id: id }));
  }

  static async ofTemplate(db: Knex, { id, teacher_id }: TemplateRow): Promise<Shelf> {
    return Shelf.of(db, teacher_id, await db<TemplateAssetRow>('template_assets').where({ template_id: id }));
  }

  private static async of(db: Knex, teacher: TeacherId, rows: readonly { asset_id: AssetId }[]): Promise<Shelf> {
    const files = rows.map(({ asset_id }) => asset_id);
    const sheets = await db<TeacherSheetRow>('teacher_sheets')
      .where({ teacher_id: teacher })
      .whereIn('asset_id', files);
    return new Shelf(
      new Set(files),
      new Map(sheets.map((row) => [keyOf(row.asset_id, row.page_index), row.picture_asset])),
    );
  }

  /** Of the files that are named, those that are here, each once. */
  present(named: readonly FileUse[]): FileUse[] {
    const here = named.filter(({ asset }) => this.files.has(asset));
    return [...new Map(here.map((file) => [keyOf(file.asset, file.pageIndex), file])).values()];
  }

  /** What a picture, or a PDF's page, looks like; `null` where it is not here, or nobody has drawn it yet. */
  pictureOf({ asset, pageIndex }: FileUse): AssetId | null {
    if (!this.files.has(asset)) return null;
    return pageIndex === null ? asset : (this.sheets.get(keyOf(asset, pageIndex)) ?? null);
  }

  /** The PDF pages among files that nobody has sent a picture of yet, each once. */
  undrawn(named: readonly FileUse[]): FileUse[] {
    return this.present(named).filter((file) => this.pictureOf(file) === null);
  }
}

/** Names a picture, or a PDF's page. */
export const keyOf = (asset: AssetId, pageIndex: number | null) => `${asset} ${pageIndex}`;
