import { arrowHead, figurePath, labelDrop } from '../drawing/figure';
import { trace, type Path } from '../drawing/path';
import { frameMatrix } from '../lesson/frame';
import type { ComposedPiece, ShapePiece } from '../lesson/piece';
import { paintDrawing } from './drawing';
import { paintInstrument } from './instrument';
import { legibleInk } from './legible';
import type { Surface } from './surface';

const SHADOW_OFFSET_PT = 4;
const SHADOW_ALPHA = 0.18;
/** Lengths of dashes and gaps, in widths of the line; a dot is a dash of no length with a round end. */
const DASHES = { solid: [], dashed: [3.5, 2.8], dotted: [0.01, 2.2] } as const;

/** Paints text, a shape, a formula, a plot or an instrument where its frame lies. */
export function paintComposed(surface: Surface, piece: ComposedPiece, paperColor: string): void {
  const { frame, drawing } = piece;
  // A film without rulers has them where they are, unseen.
  if (piece.opacity === 0) return;
  surface.save();
  surface.transform(...frameMatrix(frame));
  const alpha = piece.opacity;
  surface.globalAlpha = alpha;
  switch (piece.kind) {
    case 'shape':
      paintShape(surface, piece, paperColor, alpha);
      break;
    case 'instrument':
      paintInstrument(surface, piece.content, frame);
      break;
    case 'text':
    case 'formula':
    case 'plot': {
      const own = piece.kind === 'text' ? piece.content.style.color : piece.content.color;
      surface.transform(frame.widthPt / drawing.widthPt, 0, 0, frame.heightPt / drawing.heightPt, 0, 0);
      surface.transform(1, 0, 0, 1, -drawing.widthPt / 2, -drawing.heightPt / 2);
      paintDrawing(surface, drawing, (color) => legibleInk(color ?? own, paperColor));
    }
  }
  surface.restore();
}

function paintShape(
  surface: Surface,
  { content, frame, drawing }: ShapePiece,
  paperColor: string,
  alpha: number,
): void {
  const outline = figurePath(content, frame.widthPt, frame.heightPt);
  const isOpen = content.figure === 'line' || content.figure === 'arrow';
  const ink = legibleInk(content.color, paperColor);
  if (content.shadow) {
    surface.save();
    surface.globalAlpha = alpha * SHADOW_ALPHA;
    surface.transform(1, 0, 0, 1, SHADOW_OFFSET_PT, SHADOW_OFFSET_PT);
    if (isOpen || content.fill === null) drawLine(surface, outline, content.widthPt, content.dash, '#000000');
    else fillPath(surface, outline, '#000000');
    surface.restore();
  }
  if (content.fill !== null && !isOpen) fillPath(surface, outline, content.fill);
  if (content.widthPt > 0) drawLine(surface, outline, content.widthPt, content.dash, ink);
  if (content.figure === 'arrow') fillPath(surface, arrowHead(content.widthPt, frame.widthPt), ink);
  if (!content.label) return;
  const { style } = content.label;
  const drop = isOpen ? -drawing.heightPt : labelDrop(content) * frame.heightPt;
  surface.save();
  // Text is never mirrored with its shape.
  if (frame.mirrored) surface.transform(-1, 0, 0, 1, 0, 0);
  surface.transform(1, 0, 0, 1, -drawing.widthPt / 2, drop - drawing.heightPt / 2);
  const ground = content.fill !== null && !isOpen ? content.fill : paperColor;
  paintDrawing(surface, drawing, () => legibleInk(style.color, ground));
  surface.restore();
}

function drawLine(
  surface: Surface,
  path: Path,
  widthPt: number,
  dash: ShapePiece['content']['dash'],
  color: string,
): void {
  surface.lineWidth = widthPt;
  surface.lineCap = dash === 'dashed' ? 'butt' : 'round';
  surface.lineJoin = 'miter';
  surface.strokeStyle = color;
  surface.setLineDash(DASHES[dash].map((share) => share * widthPt));
  surface.beginPath();
  trace(path, surface);
  surface.stroke();
  surface.setLineDash([]);
}

function fillPath(surface: Surface, path: Path, color: string): void {
  surface.fillStyle = color;
  surface.beginPath();
  trace(path, surface);
  surface.fill();
}
