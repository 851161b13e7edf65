import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { findAll } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { expose } from 'comlink';
import { ImageStore } from '../../pictures/image-store';
import { LessonFileLoader } from '../../pictures/lesson-file-loader';
import { makeOfflinePage, type OfflineKind, type OfflineLesson } from './offline-page';

const PROGRAM_URL = '/carried.html';
/** What its pages look like without script: as wide as a phone held sideways shows them. */
const PICTURE_WIDTH_PX = 960;
const PICTURE_QUALITY = 0.8;

/** Makes offline pages away from the page. */
const offlinePage = {
  /** @throws Error with a message for the teacher where something of it cannot be loaded */
  async make(wanted: OfflineLesson, sound: Blob | null, kind: OfflineKind): Promise<Blob> {
    const loader = new LessonFileLoader(wanted.lesson);
    const images = new ImageStore(loader.load);
    try {
      return await makeOfflinePage(wanted, sound, kind, {
        program: programText,
        file: (asset, pageIndex) => (pageIndex === null ? loader.file(asset) : loader.sheetPicture(asset, pageIndex)),
        picture: (state) => pictureOf(state, images),
        base64: async (file) => {
          const url = new FileReaderSync().readAsDataURL(file);
          return url.slice(url.indexOf(',') + 1);
        },
      });
    } finally {
      loader.dispose();
    }
  },
};
export type OfflinePageWorker = typeof offlinePage;

async function pictureOf(state: PageState, images: ImageStore): Promise<Blob> {
  const heightPx = Math.round((PICTURE_WIDTH_PX * state.page.heightPt) / state.page.widthPt);
  const placement = fitPage(state.page, { widthPx: PICTURE_WIDTH_PX, heightPx });
  if (!findAll(state, images, placement.pxPerPt)) await images.settled();
  const canvas = new OffscreenCanvas(PICTURE_WIDTH_PX, heightPx);
  paintPage(canvas.getContext('2d')!, state, placement, images);
  return canvas.convertToBlob({ type: 'image/webp', quality: PICTURE_QUALITY });
}

async function programText(): Promise<string> {
  const response = await fetch(PROGRAM_URL).catch(() => null);
  if (!response?.ok) throw new Error('The server cannot be reached just now. Try again in a moment.');
  return response.text();
}

expose(offlinePage);
