import type { InstrumentPiece } from '@kite-trail/core/lesson/piece';
import { HINGE_RISE_PT, PROTRACTOR_STRIP_PT, protractorRadius } from '@kite-trail/core/measuring/instrument';

/** Nearer to an edge than this, a pen writes along it; further inside, it takes hold. */
const EDGE_PX = 9;

/** Half of an instrument's sides, and where its lower grips stand, in pixels. */
export function sidesPx({ frame, content }: InstrumentPiece, pxPerPt: number) {
  const [right, bottom] = [(frame.widthPt / 2) * pxPerPt, (frame.heightPt / 2) * pxPerPt];
  const strip = PROTRACTOR_STRIP_PT * pxPerPt;
  const down = { ruler: 0, 'set-square': bottom, protractor: bottom - strip / 2, compasses: 0 };
  return { pxPerPt, right, bottom, strip, down: down[content.instrument] };
}

/** What an instrument is held by: its body within its edges, as an SVG path about the middle of its frame. */
export function bodyPath(piece: InstrumentPiece, pxPerPt: number): string {
  const { right, bottom, strip } = sidesPx(piece, pxPerPt);
  const [inX, inY] = [right - EDGE_PX, bottom - EDGE_PX];
  switch (piece.content.instrument) {
    case 'ruler':
      return `M${-inX} ${-inY}H${inX}V${inY}H${-inX}Z`;
    case 'set-square': {
      // The slanted side is further off, measured along the others.
      const slant = EDGE_PX * (1 + Math.SQRT2);
      return `M${-inX} ${-bottom + slant}L${right - slant} ${inY}H${-inX}Z`;
    }
    case 'protractor': {
      const radius = protractorRadius(piece.frame) * pxPerPt - EDGE_PX;
      const foot = bottom - strip - EDGE_PX;
      return `M${-radius} ${foot}A${radius} ${radius} 0 0 1 ${radius} ${foot}Z M${-inX} ${foot + 2 * EDGE_PX}H${inX}V${bottom}H${-inX}Z`;
    }
    case 'compasses': {
      const rise = HINGE_RISE_PT * pxPerPt;
      // Down each leg to near its end, and up again.
      const [reach, foot] = [right * 0.85, -rise * 0.15];
      const outside = `M${-reach - 8} ${foot}L-10 ${-rise - 12}H10L${reach + 8} ${foot}`;
      return `${outside}H${reach - 12}L0 ${-rise + 24}L${-reach + 12} ${foot}Z`;
    }
  }
}
