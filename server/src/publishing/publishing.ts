import { writeForm } from '@kite-trail/core/contract/forms';
import type { newPublication } from '@kite-trail/core/contract/upload';
import type { AssetId, TeacherId } from '@kite-trail/core/lesson/ids';
import type { Knex } from 'knex';
import { nanoid } from 'nanoid';
import type { z } from 'zod';
import { storeAsset } from '../assets/assets';
import { claimUpload, type CheckedUpload } from '../assets/uploads';
import { Shelf } from '../assets/shelf';
import type { LessonRow, LinkRow, PublicationRow, PublicationSheetRow } from '../database/rows';
import { leadTo } from '../links/links';
import { badInput, conflict, notFound } from '../http/problem';
import { makePublishable, type Publishable } from './publishable';

/**
 * Publishes the programme in force, or a part of it: its sound, made by the teacher's browser, and an immutable payload of pages and
 * marks. The lesson's links to it lead there from then on; to the whole lesson, the first is made where there is none.
 * @param asked `sound`: an AAC file in MP4 whose parts have come, or `null` where nobody speaks
 * @param found the lesson played out, and what the parts of its sound are together
 * @throws RequestProblem when the programme is not the one the sound was made from, or there is none
 */
export async function publish(
  db: Knex,
  teacher: TeacherId,
  lesson: LessonRow,
  { programmeN, sound, loudness, part }: { programmeN: number } & z.output<typeof newPublication>,
  { played, mixed }: { played: Publishable; mixed: CheckedUpload | null },
): Promise<void> {
  if (lesson.programme_n === 0) throw badInput('There is nothing to share yet. Record something first.');
  if (programmeN !== lesson.programme_n) {
    throw conflict('edited-meanwhile', 'The lesson was edited while it was being shared. Share it again.');
  }
  const found =
    played.changedAt === lesson.changed_at ? played : await makePublishable(db, { lesson: lesson.id, part });
  const shelf = await Shelf.ofLesson(db, lesson);
  const files = shelf.present(found.files);
  if (shelf.undrawn(files).length > 0) {
    throw conflict('not-drawn', 'The PDF’s pages are still on their way to the server. Share again in a moment.');
  }
  const publication: PublicationRow = {
    id: nanoid(),
    lesson_id: lesson.id,
    title: lesson.title,
    programme_n: lesson.programme_n,
    length_samples: found.lengthSamples,
    page_count: found.pageCount,
    sound_asset: sound && (await claimUpload(db, teacher, sound, mixed!, soundType)),
    payload_asset: await storeAsset(db, 'application/octet-stream', found.payload),
    chapters: JSON.stringify(found.chapters),
    captions: found.captions,
    prompts: found.prompts.length > 0 ? JSON.stringify(found.prompts) : null,
    programme: writeForm('programme', [...found.programme]),
    made_at: new Date().toISOString(),
    part: part && writeForm('part', part),
    picture_asset: await storeAsset(db, 'image/png', found.picture),
    loudness: loudness === '' ? null : Buffer.from(loudness, 'base64'),
  };
  await db('publications').insert(publication);
  const about = { publication_id: publication.id };
  for (const asset_id of new Set(files.map(({ asset }) => asset))) {
    await db('publication_assets').insert({ ...about, asset_id });
  }
  for (const file of files.filter(({ pageIndex }) => pageIndex !== null)) {
    const page = { asset_id: file.asset, page_index: file.pageIndex, picture_asset: shelf.pictureOf(file) };
    await db('publication_sheets').insert({ ...about, ...page });
  }
  await leadTo(db, publication);
}

/** The publication a link leads to just now. */
export async function newestOf(db: Knex, link: LinkRow): Promise<PublicationRow> {
  return (await db<PublicationRow>('publications').where({ id: link.publication_id }).first())!;
}

/** What a PDF's page looks like in a publication. @throws RequestProblem when it is not in it */
export async function publishedSheet(db: Knex, of: PublicationRow, pdf: AssetId, pageIndex: number): Promise<AssetId> {
  const page = { publication_id: of.id, asset_id: pdf, page_index: pageIndex };
  const row = await db<PublicationSheetRow>('publication_sheets').where(page).first();
  if (!row) throw notFound('page');
  return row.picture_asset;
}

/** An MP4 file begins with a file type box (ISO/IEC 14496-12, section 4.3). */
function soundType(head: Uint8Array): string {
  if (String.fromCharCode(...head.subarray(4, 8)) !== 'ftyp') throw badInput('The sound is not an MP4 file.');
  return 'audio/mp4';
}
