import { decodePayload } from '@kite-trail/core/formats/payload';
import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import type { PageState } from '@kite-trail/core/lesson/scene';
import { paintPage, paintPieces, type Live } from '@kite-trail/core/paint/painter';
import { findAll, type Images } from '@kite-trail/core/paint/picture';
import { fitPage, type Placement, type Surface } from '@kite-trail/core/paint/surface';
import { SvgSurface, type SvgImage } from '@kite-trail/core/paint/vector/svg-surface';
import { expose } from 'comlink';
import { zipSync, type Zippable } from 'fflate';
import { ImageStore } from '../pictures/image-store';
import { LessonFileLoader } from '../pictures/lesson-file-loader';
import { Gate } from './gate';

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
  /** The pages, as a payload's base (`core/formats/payload`). */
  payload: Uint8Array;
}

const TYPES: Record<PictureKind, string> = { png: 'image/png', webp: 'image/webp', svg: 'image/svg+xml' };
const WEBP_QUALITY = 0.92;
/** Canvases grow no larger in any browser (common practice). */
const MOST_PIXELS = 64e6;

const gate = new Gate();

const pagePicture = {
  hold(isHeld: boolean): void {
    gate.hold(isHeld);
  },

  /** The first page. @param growing how many points are written of strokes that are not whole yet */
  one(task: PagesToPicture, growing: Live['growing']): Promise<Blob> {
    return picture(pagesOf(task)[0], task, imagesOf(task), growing);
  },

  /** All pages, one by one, in a zip. @param onDone hears how much is done, from 0 to 1 */
  async zip(task: PagesToPicture, onDone: (done: number) => void): Promise<Blob> {
    const [pages, images] = [pagesOf(task), imagesOf(task)];
    const files: Zippable = {};
    const digits = String(pages.length).length;
    for (const [n, state] of pages.entries()) {
      await gate.passed();
      const bytes = new Uint8Array(await (await picture(state, task, images, new Map())).arrayBuffer());
      // Pictures are compressed as they are.
      const level = task.kind === 'svg' ? 6 : 0;
      files[`page-${String(n + 1).padStart(digits, '0')}.${task.kind}`] = [bytes, { level }];
      onDone((n + 1) / pages.length);
    }
    return new Blob([zipSync(files) as Uint8Array<ArrayBuffer>], { type: 'application/zip' });
  },
};
export type PagePictureWorker = typeof pagePicture;

const pagesOf = ({ payload }: PagesToPicture): readonly PageState[] => decodePayload(payload).base.pages;
const imagesOf = ({ lesson }: PagesToPicture): ImageStore => new ImageStore(new LessonFileLoader(lesson).load);

async function picture(
  state: PageState,
  task: PagesToPicture,
  images: ImageStore,
  growing: Live['growing'],
): Promise<Blob> {
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
    paint(surface, state, growing, placement, await linked(state, images, placement.pxPerPt), task.isTransparent);
    return new Blob([surface.document], { type: TYPES.svg });
  }
  const canvas = new OffscreenCanvas(size.widthPx, size.heightPx);
  paint(canvas.getContext('2d')!, state, growing, placement, images, task.isTransparent);
  return canvas.convertToBlob({ type: TYPES[task.kind], quality: WEBP_QUALITY });
}

function paint(
  surface: Surface,
  state: PageState,
  growing: Live['growing'],
  placement: Placement,
  images: Images,
  isTransparent: boolean,
): void {
  if (!isTransparent) paintPage(surface, state, placement, images, { growing, passing: [] });
  else paintPieces(surface, state.pieces, state.page.paper.color, placement, images, growing);
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

expose(pagePicture);
