import { proxy } from 'comlink';
import type { PagePictureWorker, PagesToPicture } from '../workers/page-picture.worker';
import PictureWorker from '../workers/page-picture.worker?worker';
import { withWorker } from '../workers/with-worker';
import { newMakingId, type Work } from './makings';

/** Pictures of pages in a zip, or side by side in one, made beside whatever else is. */
export const picturesWork = (of: string, name: string, pages: PagesToPicture, as: 'zip' | 'sheet'): Work => ({
  id: newMakingId(),
  lesson: pages.lesson,
  of,
  name,
  isLong: false,
  make: (told) =>
    withWorker<PagePictureWorker, Blob>(new PictureWorker(), (one) => one[as](pages, proxy(told.onDone)), told),
});
