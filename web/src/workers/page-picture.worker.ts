import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import { shownPage, type PageState } from '@kite-trail/core/lesson/scene';
import { paintPage, paintPieces } from '@kite-trail/core/paint/painter';
import { findAll, type Images } from '@kite-trail/core/paint/picture';
import { fitPage, type Placement, type Surface } from '@kite-trail/core/paint/surface';
import { SvgSurface, type SvgImage } from '@kite-trail/core/paint/vector/svg-surface';
import { still, type Moment } from '@kite-trail/core/trail/timeline';
import { expose } from 'comlink';
import { zipSync, type Zippable } from 'fflate';
import { ImageStore } from '../pictures/image-store';
import { LessonFileLoader } from '../pictures/lesson-file-loader';

export const PICTURE_KINDS = ['png', 'webp', 'svg'] as const;
export type PictureKind = (typeof PICTURE_KINDS)[number];

/** What pictures of pages are to be like. */
export interface PictureOptions {
  kind: PictureKind;
  /** As wide as that; an SVG is as large as its page. */
  widthPx: number;
  /** Without the paper and what is printed on it. */
  isTransparent: boolean;
}

export interface PagesToPicture extends PictureOptions {
  lesson: LessonId;
  title: string;
  /** A payload (`core/formats/payload`). */
  payload: Uint8Array;
  /** The page shown at a moment of its trail; `null` for all its pages, as they begin. */
  atSamples: number | null;
}

const TYPES: Record<PictureKind, string> = { png: 'image/png', webp: 'image/webp', svg: 'image/svg+xml' };
const WEBP_QUALITY = 0.92;
/** Canvases grow no larger in any browser (common practice). */
const MOST_PIXELS = 64e6;

const pagePicture = {
  /** @returns one picture, or a zip of those of all pages */
  async make(task: PagesToPicture): Promise<Blob> {
    const timeline = timelineOf(decodePayload(task.payload));
    const images = new ImageStore(new LessonFileLoader(task.lesson).load);
    if (task.atSamples !== null) {
      const moment = timeline.at(task.atSamples);
      return picture(shownPage(moment.scene), moment, task, images);
    }
    const files: Zippable = {};
    const digits = String(timeline.base.pages.length).length;
    for (const [n, state] of timeline.base.pages.entries()) {
      const blob = await picture(state, still(timeline.base), task, images);
      const bytes = new Uint8Array(await blob.arrayBuffer());
      // Pictures are compressed as they are.
      files[`page-${String(n + 1).padStart(digits, '0')}.${task.kind}`] = [
        bytes,
        { level: task.kind === 'svg' ? 6 : 0 },
      ];
    }
    return new Blob([zipSync(files) as Uint8Array<ArrayBuffer>], { type: 'application/zip' });
  },
};
export type PagePictureWorker = typeof pagePicture;

async function picture(state: PageState, moment: Moment, task: PagesToPicture, images: ImageStore): Promise<Blob> {
  const { page } = state;
  const scale =
    task.kind === 'svg'
      ? 1
      : Math.min(task.widthPx / page.widthPt, Math.sqrt(MOST_PIXELS / (page.widthPt * page.heightPt)));
  const size = { widthPx: Math.round(page.widthPt * scale), heightPx: Math.round(page.heightPt * scale) };
  const placement = fitPage(page, size);
  if (!findAll(state, images, placement.pxPerPt)) {
    await images.settled();
    if (!findAll(state, images, placement.pxPerPt)) {
      throw new Error('A picture of this lesson cannot be loaded just now. Try again in a moment.');
    }
  }
  if (task.kind === 'svg') {
    const surface = new SvgSurface(size.widthPx, size.heightPx, task.title);
    paint(surface, state, moment, placement, await linked(state, images, placement.pxPerPt), task.isTransparent);
    return new Blob([surface.document], { type: TYPES.svg });
  }
  const canvas = new OffscreenCanvas(size.widthPx, size.heightPx);
  paint(canvas.getContext('2d')!, state, moment, placement, images, task.isTransparent);
  return canvas.convertToBlob({ type: TYPES[task.kind], quality: WEBP_QUALITY });
}

function paint(
  surface: Surface,
  state: PageState,
  moment: Moment,
  placement: Placement,
  images: Images,
  isTransparent: boolean,
): void {
  if (!isTransparent) paintPage(surface, state, placement, images, moment);
  else paintPieces(surface, state.pieces, state.page.paper.color, placement, images, moment.growing);
}

/** A page's pictures as addresses that hold them, for a document that stands alone. */
async function linked(state: PageState, images: ImageStore, pxPerPt: number): Promise<Images> {
  const wanted = new Map<string, ImageBitmap>();
  const keyOf = (asset: AssetId, pageIndex: number | null) => `${asset} ${pageIndex}`;
  const noting: Images = {
    find: (asset, pageIndex, widthPx) => {
      const found = images.find(asset, pageIndex, widthPx);
      if (found) wanted.set(keyOf(asset, pageIndex), found.image as ImageBitmap);
      return found;
    },
  };
  findAll(state, noting, pxPerPt);
  const held = new Map<string, SvgImage>();
  for (const [key, bitmap] of wanted) {
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
    const href = new FileReaderSync().readAsDataURL(await canvas.convertToBlob({ type: 'image/png' }));
    held.set(key, { href, widthPx: bitmap.width, heightPx: bitmap.height });
  }
  return {
    find: (asset, pageIndex) => {
      const image = held.get(keyOf(asset, pageIndex));
      return image ? { image, widthPx: image.widthPx, heightPx: image.heightPx } : null;
    },
  };
}

/** Only in workers; the DOM types know only a page's. */
declare class FileReaderSync {
  readAsDataURL(blob: Blob): string;
}

expose(pagePicture);
