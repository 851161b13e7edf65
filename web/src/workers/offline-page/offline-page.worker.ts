import type { Carried, CarriedFile } from '@kite-trail/core/contract/carried';
import type { Watch } from '@kite-trail/core/contract/watch';
import { writeCourseManifest } from '@kite-trail/core/formats/course-package';
import { writeOfflinePage } from '@kite-trail/core/formats/offline-page';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { TranscriptLine } from '@kite-trail/core/formats/transcript';
import { filesIn, filesOn } from '@kite-trail/core/lesson/files';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { paintPage } from '@kite-trail/core/paint/painter';
import { findAll } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { expose } from 'comlink';
import { strToU8, zipSync } from 'fflate';
import { ImageStore } from '../../pictures/image-store';
import { LessonFileLoader } from '../../pictures/lesson-file-loader';

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

const PROGRAM_URL = '/carried.html';
/** What its pages look like without script: as wide as a phone held sideways shows them. */
const PICTURE_WIDTH_PX = 960;
const PICTURE_QUALITY = 0.8;

const offlinePage = {
  /** @throws Error with a message for the teacher where something of it cannot be loaded */
  async make(wanted: OfflineLesson, sound: Blob | null, kind: OfflineKind): Promise<Blob> {
    const { lesson, about, language, captions, lines } = wanted;
    const program = await programText();
    const loader = new LessonFileLoader(lesson);
    const carried: Carried = {
      token: `offline-${lesson}`,
      about,
      files: {
        '/payload': await carriedFile(new Blob([wanted.payload], { type: 'application/octet-stream' })),
        ...(captions === null ? {} : { '/captions': await carriedFile(new Blob([captions], { type: 'text/vtt' })) }),
        ...(await filesOf(wanted, loader)),
      },
    };
    const parts = writeOfflinePage(program, {
      title: about.title,
      language,
      carried,
      sound: sound && (await carriedFile(sound)),
      pictures: await picturesOf(wanted, loader),
      lines,
    });
    loader.dispose();
    const page = new Blob(parts, { type: 'text/html' });
    return kind === 'page' ? page : packed(page, lesson, about.title);
  },
};
export type OfflinePageWorker = typeof offlinePage;

/** A package for course systems. */
async function packed(page: Blob, lesson: LessonId, title: string): Promise<Blob> {
  const files = {
    'imsmanifest.xml': strToU8(writeCourseManifest({ id: lesson, title, page: 'index.html' })),
    'index.html': new Uint8Array(await page.arrayBuffer()),
  };
  return new Blob([zipSync(files) as Uint8Array<ArrayBuffer>], { type: 'application/zip' });
}

/** The pictures and PDF pages that are seen at some time, as students get them. */
async function filesOf({ payload }: OfflineLesson, loader: LessonFileLoader): Promise<Record<string, CarriedFile>> {
  const { base, trail } = decodePayload(payload);
  const files: Record<string, CarriedFile> = {};
  for (const { asset, pageIndex } of [...base.pages.flatMap(filesOn), ...trail.marks.flatMap(filesIn)]) {
    const path = pageIndex === null ? `/assets/${asset}` : `/assets/${asset}/pages/${pageIndex}`;
    if (path in files) continue;
    files[path] = await carriedFile(
      await (pageIndex === null ? loader.file(asset) : loader.sheetPicture(asset, pageIndex)),
    );
  }
  return files;
}

async function picturesOf({ payload }: OfflineLesson, loader: LessonFileLoader): Promise<CarriedFile[]> {
  const images = new ImageStore(loader.load);
  const pictures: CarriedFile[] = [];
  for (const state of timelineOf(decodePayload(payload)).end.pages) {
    const heightPx = Math.round((PICTURE_WIDTH_PX * state.page.heightPt) / state.page.widthPt);
    const placement = fitPage(state.page, { widthPx: PICTURE_WIDTH_PX, heightPx });
    if (!findAll(state, images, placement.pxPerPt)) await images.settled();
    const canvas = new OffscreenCanvas(PICTURE_WIDTH_PX, heightPx);
    paintPage(canvas.getContext('2d')!, state, placement, images);
    pictures.push(await carriedFile(await canvas.convertToBlob({ type: 'image/webp', quality: PICTURE_QUALITY })));
  }
  return pictures;
}

async function programText(): Promise<string> {
  const response = await fetch(PROGRAM_URL).catch(() => null);
  if (!response?.ok) throw new Error('The server cannot be reached just now. Try again in a moment.');
  return response.text();
}

async function carriedFile(file: Blob): Promise<CarriedFile> {
  const url = new FileReaderSync().readAsDataURL(file);
  return { type: file.type.split(';')[0], base64: url.slice(url.indexOf(',') + 1) };
}

expose(offlinePage);
