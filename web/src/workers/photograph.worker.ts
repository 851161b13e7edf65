import { cleaned } from '@kite-trail/core/photograph/cleaned';
import { pageCorners, type Corners } from '@kite-trail/core/photograph/page-corners';
import type { Pixels } from '@kite-trail/core/photograph/pixels';
import { straightened } from '@kite-trail/core/photograph/straightened';
import { expose } from 'comlink';

/** Fine enough to read small writing on a sheet of A4. */
const LONGEST_PX = 2400;
const JPEG_QUALITY = 0.85;

/** A picture of a sheet of paper that lies straight before one's eyes. */
export interface Sheet {
  blob: Blob;
  widthPx: number;
  heightPx: number;
}

/** Makes a sheet of a photograph, away from the page that shows it. */
export const photographWorker = {
  /** The corners of the sheet of paper in a photograph, in its pixels; `null` where none is seen. */
  async cornersIn(photograph: Blob): Promise<Corners | null> {
    return pageCorners(await pixelsOf(photograph));
  },

  /** The sheet between these corners, straight and evenly lit. */
  async sheetBetween(photograph: Blob, corners: Corners): Promise<Sheet> {
    const { widthPx, heightPx, rgba } = cleaned(straightened(await pixelsOf(photograph), corners, LONGEST_PX));
    const canvas = new OffscreenCanvas(widthPx, heightPx);
    canvas.getContext('2d')!.putImageData(new ImageData(rgba, widthPx, heightPx), 0, 0);
    return { blob: await canvas.convertToBlob({ type: 'image/jpeg', quality: JPEG_QUALITY }), widthPx, heightPx };
  },
};

async function pixelsOf(photograph: Blob): Promise<Pixels> {
  const decoded = await createImageBitmap(photograph);
  const { width: widthPx, height: heightPx } = decoded;
  const surface = new OffscreenCanvas(widthPx, heightPx).getContext('2d')!;
  surface.drawImage(decoded, 0, 0);
  decoded.close();
  return { widthPx, heightPx, rgba: surface.getImageData(0, 0, widthPx, heightPx).data };
}

export type PhotographWorker = typeof photographWorker;
expose(photographWorker);
