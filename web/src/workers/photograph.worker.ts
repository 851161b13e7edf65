import { cleaned } from '@kite-trail/core/photograph/cleaned';
import { pageCorners } from '@kite-trail/core/photograph/page-corners';
import { straightened } from '@kite-trail/core/photograph/straightened';
import { expose } from 'comlink';

/** Fine enough to read small writing on a sheet of A4. */
const LONGEST_PX = 2400;
const JPEG_QUALITY = 0.85;

/** Makes a page of a photograph, away from the page that shows it. */
export const photographWorker = {
  /** The sheet of paper in a photograph, straight and evenly lit; `null` where none is seen. */
  async sheetIn(photograph: Blob): Promise<{ blob: Blob; widthPx: number; heightPx: number } | null> {
    const decoded = await createImageBitmap(photograph);
    const { width: widthPx, height: heightPx } = decoded;
    const surface = new OffscreenCanvas(widthPx, heightPx).getContext('2d')!;
    surface.drawImage(decoded, 0, 0);
    decoded.close();
    const pixels = { widthPx, heightPx, rgba: surface.getImageData(0, 0, widthPx, heightPx).data };
    const corners = pageCorners(pixels);
    if (!corners) return null;
    const sheet = cleaned(straightened(pixels, corners, LONGEST_PX));
    const canvas = new OffscreenCanvas(sheet.widthPx, sheet.heightPx);
    canvas.getContext('2d')!.putImageData(new ImageData(sheet.rgba, sheet.widthPx, sheet.heightPx), 0, 0);
    const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: JPEG_QUALITY });
    return { blob, widthPx: sheet.widthPx, heightPx: sheet.heightPx };
  },
};

export type PhotographWorker = typeof photographWorker;
expose(photographWorker);
