import type { TemplateId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { pngOf } from '../assets/images';
import { Shelf } from '../assets/shelf';
import type { TemplateRow } from '../database/rows';
import { stateOf } from './templates';

/** What a template looks like: a PNG. */
export async function paintTemplate(
  db: Knex,
  { template: id, widthPx }: { template: TemplateId; widthPx: number },
): Promise<Uint8Array> {
  const template = (await db<TemplateRow>('page_templates').where({ id }).first())!;
  return pngOf(db, stateOf(template), await Shelf.ofTemplate(db, template), widthPx);
}
