import type { ArchivedLesson, ArchivedTake } from '@kite-trail/core/contract/archive';
import { readForm } from '@kite-trail/core/contract/forms';
import { inkOfPages } from '@kite-trail/core/formats/inkml/ink-of-pages';
import { writeInkMl } from '@kite-trail/core/formats/inkml/write-inkml';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import { timelineOf } from '@kite-trail/core/formats/payload';
import { writeWebVtt } from '@kite-trail/core/formats/timed-text';
import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import { applyChanges } from '@kite-trail/core/lesson/scene';
import { samplesToMs } from '@kite-trail/core/trail/clock';
import { filledCues, timedText } from '@kite-trail/core/trail/captions';
import type { Knex } from 'knex';
import type { NamedBytes } from '../assets/assets';
import type {
  AssetRow,
  LessonAssetRow,
  LessonRow,
  TakePartRow,
  TakeRow,
  TeacherSheetRow,
  VersionRow,
} from '../database/rows';
import { notFound } from '../http/problem';
import { aboutOf, writtenPages } from '../lessons/lessons';
import { paintCover } from '../lessons/picture';
import { chaptersIn, playOut } from '../lessons/trails';
import { gatherTake } from '../takes/gather';

/** What of a lesson lies in an archive, by its path in the lesson's folder. */
export interface ArchivedFiles {
  title: string;
  /** Written for the archive. */
  written: { path: string; bytes: Uint8Array }[];
  /** What the school keeps as it is. */
  kept: { path: string; asset: AssetId; sizeBytes: number }[];
}

const PICTURE_WIDTH_PX = 640;
const ENDINGS: Record<string, string> = { 'image/png': '.png', 'image/jpeg': '.jpg', 'image/webp': '.webp' };

/** Writes all of a lesson for an archive: first what can be brought back, then the same for other programs. */
export async function fileLesson(db: Knex, { lesson: id }: { lesson: LessonId }): Promise<ArchivedFiles> {
  const lesson = await db<LessonRow>('lessons').where({ id }).first();
  if (!lesson) throw notFound('lesson');
  const played = await playOut(db, lesson);
  const { edition, trail } = played;
  const files = await db<LessonAssetRow>('lesson_assets').where({ lesson_id: id }).orderBy('asset_id');
  const sheets = await db<TeacherSheetRow>('teacher_sheets')
    .where({ teacher_id: lesson.teacher_id })
    .whereIn(
      'asset_id',
      files.map(({ asset_id }) => asset_id),
    )
    .orderBy(['asset_id', 'page_index']);
  const rows = await db<TakeRow>('takes').where({ lesson_id: id }).orderBy(['started_at', 'id']);
  const begun = await Promise.all(rows.filter(({ ended_at }) => !ended_at).map((row) => beginningOf(db, row)));
  const beginnings = begun.flatMap((one) => one ?? []);
  const versions = await db<VersionRow>('versions').where({ lesson_id: id }).orderBy(['made_at', 'id']);
  const described: ArchivedLesson = {
    id,
    title: lesson.title,
    about: aboutOf(lesson),
    source: lesson.source === null ? null : readForm('source', lesson.source),
    madeAt: lesson.created_at,
    pages: (await writtenPages(db, id)).map(({ page, contents }) => ({
      page,
      pieces: Buffer.from(contents).toString('base64'),
    })),
    between: lesson.between_marks.toString('base64'),
    takes: [...rows.filter(({ ended_at }) => ended_at).map(archivedTake), ...beginnings.map(({ take }) => take)],
    edition: edition as ArchivedLesson['edition'],
    versions: versions.map(({ name, made_at, length_samples, edition: kept }) => ({
      name,
      madeAt: made_at,
      lengthSamples: Number(length_samples),
      edition: readForm('edition', kept),
    })),
    files: files.map(({ asset_id, file_name }) => ({ asset: asset_id, name: file_name })),
    sheets: sheets.map(({ asset_id, page_index, picture_asset }) => ({
      asset: asset_id,
      pageIndex: page_index,
      picture: picture_asset,
    })),
  };

  const timeline = timelineOf(played);
  const { pages } = applyChanges(timeline.end, decodeMarks(lesson.between_marks));
  const cues = filledCues(edition.programme, edition.captions).map(timedText);
  const chapters = chaptersIn(played, timeline).map(({ startSamples, title }, i, all) => ({
    startMs: samplesToMs(startSamples),
    endMs: samplesToMs(all[i + 1]?.startSamples ?? trail.lengthSamples),
    text: title,
  }));
  const text = (path: string, written: string) => ({ path, bytes: Buffer.from(written) });
  const sizes = await sizesOf(db, [
    ...rows.flatMap((row) => [row.marks_asset, row.sound_asset, row.profile_asset]),
    ...files.map(({ asset_id }) => asset_id),
    ...sheets.map(({ picture_asset }) => picture_asset),
  ]);
  const kept = (path: string, asset: AssetId | null): ArchivedFiles['kept'] => {
    const row = asset && sizes.get(asset);
    return row ? [{ path, asset: row.id, sizeBytes: Number(row.size_bytes) }] : [];
  };
  const endingOf = (asset: AssetId) => ENDINGS[sizes.get(asset)?.media_type ?? ''] ?? '';
  return {
    title: lesson.title,
    written: [
      text('lesson.json', JSON.stringify(described, null, 1)),
      ...beginnings.flatMap(({ written }) => written),
      text('ink.inkml', writeInkMl(lesson.title, inkOfPages(pages, trail))),
      ...(cues.length > 0 ? [text('captions.vtt', writeWebVtt(cues))] : []),
      ...(chapters.length > 0 ? [text('chapters.vtt', writeWebVtt(chapters))] : []),
      { path: 'picture.png', bytes: await paintCover(db, lesson, pages, PICTURE_WIDTH_PX) },
    ],
    kept: [
      ...rows.flatMap(({ id: take, marks_asset, sound_asset, profile_asset }) => [
        ...kept(`takes/${take}/marks.bin`, marks_asset),
        ...kept(`takes/${take}/sound.ogg`, sound_asset),
        ...kept(`takes/${take}/profile.bin`, profile_asset),
      ]),
      ...files.flatMap(({ asset_id, file_name }) =>
        kept(`files/${asset_id.slice(0, 12)} ${inFileName(file_name)}`, asset_id),
      ),
      ...sheets.flatMap(({ asset_id, page_index, picture_asset }) =>
        kept(`sheets/${asset_id.slice(0, 12)} ${page_index + 1}${endingOf(picture_asset)}`, picture_asset),
      ),
    ],
  };
}

/** Assets with their sizes and types, by their names. */
async function sizesOf(db: Knex, named: readonly (AssetId | null)[]): Promise<Map<AssetId, AssetRow>> {
  const found = new Map<AssetId, AssetRow>();
  for (const id of new Set(named)) {
    const row = id && (await db<AssetRow>('assets').where({ id }).first());
    if (row) found.set(row.id, row);
  }
  return found;
}

const archivedTake = (row: TakeRow): ArchivedTake => ({
  id: row.id,
  name: row.name ?? '',
  startedAt: row.started_at,
  lengthSamples: Number(row.length_samples),
  hasSound: Boolean(row.has_sound),
  plan: row.plan === null ? { kind: 'carry-on' } : readForm('plan', row.plan),
  isBinned: row.binned_at !== null,
  marks: row.marks_asset!,
  sound: row.sound_asset,
  profile: row.profile_asset,
});

/** A recording that has not ended, or broke off, as far as it has come; `null` where nothing has. */
async function beginningOf(
  db: Knex,
  row: TakeRow,
): Promise<{ take: ArchivedTake; written: ArchivedFiles['written'] } | null> {
  const has = await db<TakePartRow>('take_parts').where({ take_id: row.id }).first('n');
  if (!has) return null;
  const { lengthSamples, marks, sound, profile } = await gatherTake(db, { take: row.id, isWhole: false });
  const file = (name: string, found: NamedBytes | null) =>
    found ? [{ path: `takes/${row.id}/${name}`, bytes: found.bytes }] : [];
  return {
    take: {
      ...archivedTake(row),
      lengthSamples,
      marks: marks.id,
      sound: sound?.id ?? null,
      profile: profile?.id ?? null,
    },
    written: [...file('marks.bin', marks), ...file('sound.ogg', sound), ...file('profile.bin', profile)],
  };
}

/** What any system takes as a part of a file's name. */
export const inFileName = (text: string): string =>
  text
    .replace(/[^\p{L}\p{N} ._-]/gu, '_')
    .replace(/^\.+/, '_')
    .slice(0, 80)
    .replace(/\p{Surrogate}$/u, '')
    .trim();
