import type { Stroke } from '@kite-trail/core/lesson/piece';
import type { Placement } from '@kite-trail/core/paint/surface';
import type { PlacePt } from '../capture/pen-input';

/** A dashed line, such as a loop around things. */
export function paintLine(
  surface: CanvasRenderingContext2D,
  line: readonly PlacePt[],
  { pxPerPt, leftPx, topPx }: Placement,
): void {
  const density = window.devicePixelRatio || 1;
  surface.setTransform(1, 0, 0, 1, leftPx, topPx);
  surface.strokeStyle = '#12776f';
  surface.lineWidth = 1.75 * density;
  surface.setLineDash([7 * density, 5 * density]);
  surface.beginPath();
  for (const { xPt, yPt } of line) surface.lineTo(xPt * pxPerPt, yPt * pxPerPt);
  surface.stroke();
  surface.setLineDash([]);
}

/** A stroke with a glow around it. */
export const litUp = (stroke: Stroke): Stroke => ({
  ...stroke,
  opacity: 0.75,
  pen: { kind: 'highlighter', color: '#e9a21a', widthPt: stroke.pen.widthPt + 9 },
});
