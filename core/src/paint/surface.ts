import type { Page } from '../lesson/page';

/** The part of a 2D canvas context that painting needs: a page's, a worker's or a server's will all do. */
export interface Surface {
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineCap: unknown;
  lineJoin: unknown;
  globalAlpha: number;
  globalCompositeOperation: unknown;
  imageSmoothingQuality: unknown;
  save(): void;
  restore(): void;
  /** Further transforms what {@link setTransform} has set. */
  transform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  setLineDash(segments: number[]): void;
  beginPath(): void;
  closePath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(cpx: number, cpy: number, x: number, y: number): void;
  bezierCurveTo(cp1x: number, cp1y: number, cp2x: number, cp2y: number, x: number, y: number): void;
  arc(x: number, y: number, radius: number, startAngle: number, endAngle: number, isAnticlockwise?: boolean): void;
  rect(x: number, y: number, width: number, height: number): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  fill(): void;
  stroke(): void;
  clip(): void;
  /** Draws a part of an image (`s…`, in its pixels) into a box. */
  drawImage(
    image: unknown,
    sx: number,
    sy: number,
    sWidth: number,
    sHeight: number,
    dx: number,
    dy: number,
    dWidth: number,
    dHeight: number,
  ): void;
}

/** Where a page's origin lies on a surface, in the surface's pixels. */
export interface Placement {
  leftPx: number;
  topPx: number;
  pxPerPt: number;
}

/** The largest placement of a page within a surface, centred. */
export function fitPage(
  page: Pick<Page, 'leftPt' | 'topPt' | 'widthPt' | 'heightPt'>,
  surface: { widthPx: number; heightPx: number },
): Placement {
  const pxPerPt = Math.min(surface.widthPx / page.widthPt, surface.heightPx / page.heightPt);
  return {
    pxPerPt,
    leftPx: Math.round((surface.widthPx - page.widthPt * pxPerPt) / 2 - page.leftPt * pxPerPt),
    topPx: Math.round((surface.heightPx - page.heightPt * pxPerPt) / 2 - page.topPt * pxPerPt),
  };
}
