import { z } from 'zod';
import type { AssetId } from '../lesson/ids';
import { classColor } from './class';
import { edition } from './edition';
import { lessonAbout, lessonSource, pageState, takeName, takePlan, title } from './lesson';
import { assetId, base64, classId, lessonId, line, samples, takeId } from './primitives';

/** Of what an archive is made; a newer one is refused. */
export const ARCHIVE = { form: 'lesson-archive', version: 1, manifest: 'manifest.json' } as const;

/** As many chosen lessons as one archive takes: the address that asks for it names them all. */
export const MOST_ARCHIVED = 200;
export const TOO_MANY_ARCHIVED = `An archive takes ${MOST_ARCHIVED} chosen lessons. A class, and an account, may have more.`;

/** What stands in the paths of an archive is no way out of it. */
const path = z
  .string()
  .min(1)
  .max(1000)
  .refine((one) => !/(^|\/)\.\.?(\/|$)|^\/|\\|\0|:/.test(one), 'A path in this archive leads out of it.');

/** What is in an archive, to its last byte: the first file in it. */
export const archiveManifest = z.object({
  form: z.literal(ARCHIVE.form),
  version: z.literal(ARCHIVE.version),
  lessons: z.array(z.object({ id: lessonId, title: z.string(), path })),
  /** The classes these lessons are in, each with its lessons in their order. */
  classes: z.array(z.object({ name: z.string(), color: classColor, lessons: z.array(lessonId) })),
  /** Every other file in the archive. */
  files: z.array(z.object({ path, sizeBytes: z.int().min(0), sha256: assetId })),
});
export type ArchiveManifest = z.output<typeof archiveManifest>;

const MOST_TAKES = 10_000;
const MOST_PAGES = 10_000;
const once = <Value>(of: (value: Value) => string, all: readonly Value[]) => new Set(all.map(of)).size === all.length;

const archivedTake = z.object({
  id: takeId,
  name: takeName,
  startedAt: z.iso.datetime(),
  lengthSamples: samples,
  hasSound: z.boolean(),
  plan: takePlan,
  isBinned: z.boolean(),
  /** In the bytes of `formats/marks-coding`. */
  marks: assetId,
  /** Ogg Opus. */
  sound: assetId.nullable(),
  /** In the bytes of `formats/profile-coding`. */
  profile: assetId.nullable(),
});

/** A lesson as an archive holds it, `lesson.json`: all of it but the bytes it names by their SHA-256. */
export const archivedLesson = z.object({
  id: lessonId,
  title,
  about: lessonAbout,
  source: lessonSource.nullable(),
  madeAt: z.iso.datetime(),
  pages: z
    .array(pageState)
    .min(1)
    .max(MOST_PAGES)
    .refine((pages) => once(({ page }) => page.id, pages), 'Two of its pages have one name.'),
  between: base64,
  takes: z
    .array(archivedTake)
    .max(MOST_TAKES)
    .refine((takes) => once(({ id }) => id, takes), 'Two of its recordings have one name.'),
  edition,
  versions: z
    .array(z.object({ name: line.min(1).max(80), madeAt: z.iso.datetime(), lengthSamples: samples, edition }))
    .max(1000),
  /** The pictures and PDFs it was given. */
  files: z.array(z.object({ asset: assetId, name: line.max(500) })).max(10_000),
  /** What the pages of its PDFs look like. */
  sheets: z.array(z.object({ asset: assetId, pageIndex: z.int32().min(0), picture: assetId })).max(20_000),
});
export type ArchivedLesson = z.output<typeof archivedLesson>;
export type ArchivedTake = z.output<typeof archivedTake>;

/** What an asset of an archived lesson is there for. */
export type ArchivedUse = 'marks' | 'sound' | 'profile' | 'file' | 'sheet';

/** Every asset a lesson names, each once, with all it is there for. */
export function assetsOfArchived({ takes, files, sheets }: ArchivedLesson): Map<AssetId, Set<ArchivedUse>> {
  const named = new Map<AssetId, Set<ArchivedUse>>();
  const name = (asset: AssetId | null, use: ArchivedUse) => {
    if (asset === null) return;
    const uses = named.get(asset);
    if (uses) uses.add(use);
    else named.set(asset, new Set([use]));
  };
  for (const { marks, sound, profile } of takes) {
    name(marks, 'marks');
    name(sound, 'sound');
    name(profile, 'profile');
  }
  for (const { asset } of files) name(asset, 'file');
  for (const { picture } of sheets) name(picture, 'sheet');
  return named;
}

/** Which of a lesson's assets the school lacks, and whether the lesson itself is here. */
export const arrivingLesson = z.object({ lesson: lessonId, assets: z.array(assetId).max(100_000) });
export const lessonWanted = z.object({ isHere: z.enum(['no', 'yes', 'in the bin']), missing: z.array(assetId) });
export type LessonWanted = z.output<typeof lessonWanted>;

/** Makes a lesson of an archived one whose assets have come. */
export const broughtLesson = z.object({
  lesson: archivedLesson,
  /** It is here: another like it is made. */
  isCopy: z.boolean(),
  classes: z.array(classId).max(100),
});
