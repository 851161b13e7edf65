/** The part of a 2D canvas context that painting needs: a page's, a worker's or a server's will all do. */
export interface Surface {
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineCap: unknown;
  lineJoin: unknown;
  globalAlpha: number;
  globalCompositeOperation: unknown;
  save(): void;
  restore(): void;
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  beginPath(): void;
  closePath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(cpx: number, cpy: number, x: number, y: number): void;
  rect(x: number, y: number, width: number, height: number): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  fill(): void;
  stroke(): void;
  clip(): void;
}

/** Where a page lies on a surface, in the surface's pixels. */
export interface Placement {
  leftPx: number;
  topPx: number;
  pxPerPt: number;
}

/** The largest placement of a page within a surface, centred. */
export function fitPage(
  page: { widthPt: number; heightPt: number },
  surface: { widthPx: number; heightPx: number },
): Placement {
  const pxPerPt = Math.min(surface.widthPx / page.widthPt, surface.heightPx / page.heightPt);
  return {
    pxPerPt,
    leftPx: Math.round((surface.widthPx - page.widthPt * pxPerPt) / 2),
    topPx: Math.round((surface.heightPx - page.heightPt * pxPerPt) / 2),
  };
}
