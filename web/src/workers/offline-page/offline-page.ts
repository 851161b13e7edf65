import type { Carried, CarriedFile } from '@kite-trail/core/contract/carried';
import type { Watch } from '@kite-trail/core/contract/watch';
import { writeCourseManifest } from '@kite-trail/core/formats/course-package';
import { writeOfflinePage } from '@kite-trail/core/formats/offline-page';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { TranscriptLine } from '@kite-trail/core/formats/transcript';
import { filesIn, filesOn } from '@kite-trail/core/lesson/files';
import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { strToU8, zipSync } from 'fflate';

export type OfflineKind = 'page' | 'course';

/** A lesson that is to be one file, with all that is seen and heard in it. */
export interface OfflineLesson {
  lesson: LessonId;
  language: string;
  about: Watch;
  payload: Uint8Array<ArrayBuffer>;
  /** WebVTT; `null` where there is none. */
  captions: string | null;
  lines: readonly TranscriptLine[];
}

/** What an offline page is made with. */
export interface OfflineMeans {
  /** The student's program as one page. */
  program(): Promise<string>;
  /** A picture, or a PDF's page, as students get it. */
  file(asset: AssetId, pageIndex: number | null): Promise<Blob>;
  /** What a page looks like without script. */
  picture(state: PageState): Promise<Blob>;
  base64(file: Blob): Promise<string>;
}

/** Makes a lesson one file. @throws Error with a message for the teacher where something of it cannot be loaded */
export async function makeOfflinePage(
  wanted: OfflineLesson,
  sound: Blob | null,
  kind: OfflineKind,
  means: OfflineMeans,
): Promise<Blob> {
  const { lesson, about, language, captions, lines } = wanted;
  const program = await means.program();
  const carriedFile = async (file: Blob): Promise<CarriedFile> => ({
    type: file.type.split(';')[0],
    base64: await means.base64(file),
  });
  const payload = decodePayload(wanted.payload);
  const files: Record<string, CarriedFile> = {
    '/payload': await carriedFile(new Blob([wanted.payload], { type: 'application/octet-stream' })),
  };
  if (captions !== null) files['/captions'] = await carriedFile(new Blob([captions], { type: 'text/vtt' }));
  // The pictures and PDF pages that are seen at some time.
  for (const { asset, pageIndex } of [
    ...payload.base.pages.flatMap(filesOn),
    ...payload.trail.marks.flatMap(filesIn),
  ]) {
    const path = pageIndex === null ? `/assets/${asset}` : `/assets/${asset}/pages/${pageIndex}`;
    if (!(path in files)) files[path] = await carriedFile(await means.file(asset, pageIndex));
  }
  const pictures: CarriedFile[] = [];
  for (const state of timelineOf(payload).end.pages) pictures.push(await carriedFile(await means.picture(state)));
  const carried: Carried = { token: `offline-${lesson}`, about, files };
  const parts = writeOfflinePage(program, {
    title: about.title,
    language,
    carried,
    sound: sound && (await carriedFile(sound)),
    pictures,
    lines,
  });
  const page = new Blob(parts, { type: 'text/html' });
  return kind === 'page' ? page : packed(page, lesson, about.title);
}

/** A package for course systems. */
async function packed(page: Blob, lesson: LessonId, title: string): Promise<Blob> {
  const files = {
    'imsmanifest.xml': strToU8(writeCourseManifest({ id: lesson, title, page: 'index.html' })),
    'index.html': new Uint8Array(await page.arrayBuffer()),
  };
  return new Blob([zipSync(files) as Uint8Array<ArrayBuffer>], { type: 'application/zip' });
}
