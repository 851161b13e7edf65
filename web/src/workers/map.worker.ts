import { drawOutlineMap, type Atlas, type MapPart } from '@kite-trail/core/maps/outline-map';
import { expose } from 'comlink';
import atlasUrl from 'world-atlas/countries-50m.json?url';

/** The longer side of a map: fine enough for a large screen. */
const LONGER_SIDE_PX = 2880;
const LINE_SHARE = 1 / 1100;

let atlas: Promise<Atlas> | null = null;

/** Draws blank maps, away from the page. */
export const mapWorker = {
  /** A map as a PNG through which the paper shows, in the proportions of the page it is for. */
  async draw(part: MapPart, lineColor: string, borders: boolean, shape: { widthPt: number; heightPt: number }) {
    atlas ??= fetch(atlasUrl).then((response) => response.json() as Promise<Atlas>);
    const scale = LONGER_SIDE_PX / Math.max(shape.widthPt, shape.heightPt);
    const size = { widthPx: Math.round(shape.widthPt * scale), heightPx: Math.round(shape.heightPt * scale) };
    const canvas = new OffscreenCanvas(size.widthPx, size.heightPx);
    const style = { lineColor, borders, lineWidthPx: LONGER_SIDE_PX * LINE_SHARE };
    drawOutlineMap(canvas.getContext('2d')!, await atlas, part, size, style);
    return canvas.convertToBlob({ type: 'image/png' });
  },
};

export type MapWorker = typeof mapWorker;
expose(mapWorker);
