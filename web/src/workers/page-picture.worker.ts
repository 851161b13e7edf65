import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import type { PageState } from '@kite-trail/core/lesson/scene';
import type { PixelSize } from '@kite-trail/core/film/settings';
import { contactSheet } from '@kite-trail/core/paint/contact-sheet';
import { paintPage, paintPieces, type Live, type PixelRect } from '@kite-trail/core/paint/painter';
import { findAll, type Images } from '@kite-trail/core/paint/picture';
import { fitPage, type Placement, type Surface } from '@kite-trail/core/paint/surface';
import { SvgSurface, type SvgImage } from '@kite-trail/core/paint/vector/svg-surface';
import { pageAt, type PageAt } from '@kite-trail/core/trail/page-at';
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
  /** The pages, or the trail in which `at` finds them: a payload (`core/formats/payload`). */
  payload: Uint8Array;
  at: readonly PageAt[] | null;
}

const TYPES: Record<PictureKind, string> = { png: 'image/png', webp: 'image/webp', svg: 'image/svg+xml' };
const WEBP_QUALITY = 0.92;
const SHEET_COLOR = '#ffffff';
const LINE_COLOR = '#d1ccbf';
/** Canvases grow no larger in any browser (common practice). */
const MOST_PIXELS = 64e6;
const MOST_SIDE_PX = 16_384;

/** By how much a canvas of some size would be too large; 1 or less where it is not. */
const excessOf = (widthPx: number, heightPx: number): number =>
  Math.max(Math.sqrt((widthPx * heightPx) / MOST_PIXELS), Math.max(widthPx, heightPx) / MOST_SIDE_PX);

const gate = new Gate();

const pagePicture = {
  hold(isHeld: boolean): void {
    gate.hold(isHeld);
  },

  /** The first page. @param growing how many points are written of strokes that are not whole yet */
  one(task: PagesToPicture, growing: Live['growing']): Promise<Blob> {
    return picture(pagesOf(task)[0], task, imagesOf(task), growing);
  },

  /** All pages side by side in one picture. @param onDone hears how much is done, from 0 to 1 */
  async sheet(task: PagesToPicture, onDone: (done: number) => void): Promise<Blob> {
    const [pages, images] = [pagesOf(task), imagesOf(task)];
    const sheetOf = (widthPx: number) =>
      contactSheet(
        pages.map(({ page }) => page),
        widthPx,
      );
    const wanted = sheetOf(task.widthPx);
    const excess = excessOf(wanted.widthPx, wanted.heightPx);
    const whole = excess > 1 ? sheetOf(Math.floor(task.widthPx / excess)) : wanted;
    const canvas = canvasOf(task, whole);
    canvas.surface.fillStyle = SHEET_COLOR;
    if (!task.isTransparent) canvas.surface.fillRect(0, 0, whole.widthPx, whole.heightPx);
    for (const [n, state] of pages.entries()) {
      await gate.passed();
      const { placement, box } = whole.pages[n];
      canvas.surface.save();
      clipTo(canvas.surface, box);
      await paint(canvas, state, task, placement, images, new Map());
      canvas.surface.restore();
      outline(canvas.surface, box);
      onDone((n + 1) / pages.length);
    }
    return canvas.file();
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

function pagesOf({ payload, at }: PagesToPicture): readonly PageState[] {
  const decoded = decodePayload(payload);
  if (!at) return decoded.base.pages;
  const timeline = timelineOf(decoded);
  return at.flatMap((one) => pageAt(timeline, one) ?? []);
}

const imagesOf = ({ lesson }: PagesToPicture): ImageStore => new ImageStore(new LessonFileLoader(lesson).load);

async function picture(
  state: PageState,
  task: PagesToPicture,
  images: ImageStore,
  growing: Live['growing'],
): Promise<Blob> {
  const { page } = state;
  const wanted = task.widthPx / page.widthPt;
  const excess = excessOf(page.widthPt * wanted, page.heightPt * wanted);
  const scale = task.kind === 'svg' ? 1 : wanted / Math.max(1, excess);
  const size = { widthPx: Math.round(page.widthPt * scale), heightPx: Math.round(page.heightPt * scale) };
  const canvas = canvasOf(task, size);
  await paint(canvas, state, task, fitPage(page, size), images, growing);
  return canvas.file();
}

/** What pictures of a kind are painted on, and how it becomes a file. */
interface Canvas {
  surface: Surface;
  file(): Promise<Blob>;
}

function canvasOf({ kind, title }: PagesToPicture, { widthPx, heightPx }: PixelSize): Canvas {
  if (kind === 'svg') {
    const surface = new SvgSurface(widthPx, heightPx, title);
    return { surface, file: async () => new Blob([surface.document], { type: TYPES.svg }) };
  }
  const canvas = new OffscreenCanvas(widthPx, heightPx);
  return {
    surface: canvas.getContext('2d')!,
    file: () => canvas.convertToBlob({ type: TYPES[kind], quality: WEBP_QUALITY }),
  };
}

/** A picture waits for the pictures of its page. @throws Error where one cannot be had */
async function paint(
  { surface }: Canvas,
  state: PageState,
  { kind, isTransparent }: PagesToPicture,
  placement: Placement,
  images: ImageStore,
  growing: Live['growing'],
): Promise<void> {
  if (!findAll(state, images, placement.pxPerPt)) {
    await images.settled();
    if (!findAll(state, images, placement.pxPerPt)) {
      throw new Error('A picture of this lesson cannot be loaded just now. Try again in a moment.');
    }
  }
  const held = kind === 'svg' ? await linked(state, images, placement.pxPerPt) : images;
  if (!isTransparent) paintPage(surface, state, placement, held, { growing, passing: [] });
  else paintPieces(surface, state.pieces, state.page.paper.color, placement, held, growing);
}

function clipTo(surface: Surface, { x, y, width, height }: PixelRect): void {
  surface.beginPath();
  surface.rect(x, y, width, height);
  surface.clip();
}

function outline(surface: Surface, { x, y, width, height }: PixelRect): void {
  surface.setTransform(1, 0, 0, 1, 0, 0);
  surface.strokeStyle = LINE_COLOR;
  surface.lineWidth = 1;
  surface.beginPath();
  surface.rect(x, y, width, height);
  surface.stroke();
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
