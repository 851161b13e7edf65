import { UNITS_PER_EM, type Drawing } from '../drawing/drawing';
import { trace } from '../drawing/path';
import type { Surface } from './surface';

/** Paints letters and lines, on a surface whose origin is the drawing's top left corner. */
export function paintDrawing(
  surface: Surface,
  { letters, lines }: Drawing,
  inkOf: (color: string | null) => string,
): void {
  surface.lineCap = 'round';
  surface.lineJoin = 'round';
  for (const { path, color, widthPt } of lines) {
    surface.beginPath();
    trace(path, surface);
    if (widthPt === 0) {
      surface.fillStyle = inkOf(color);
      surface.fill();
    } else {
      surface.strokeStyle = inkOf(color);
      surface.lineWidth = widthPt;
      surface.stroke();
    }
  }
  surface.fillStyle = inkOf(null);
  for (const { outline, xPt, yPt, sizePt } of letters) {
    surface.beginPath();
    trace(outline, surface, sizePt / UNITS_PER_EM, xPt, yPt);
    surface.fill();
  }
}
