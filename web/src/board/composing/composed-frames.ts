import type { Drawing } from '@kite-trail/core/drawing/drawing';
import type { Figure, TextStyle } from '@kite-trail/core/lesson/content';
import { frameMatrix, storableFrame, type Frame } from '@kite-trail/core/lesson/frame';
import { movedTo } from '@kite-trail/core/lesson/matrix';
import type { ShapePiece, TextPiece } from '@kite-trail/core/lesson/piece';

export interface PlacePt {
  xPt: number;
  yPt: number;
}

/** A line runs from one place to the other; all else fills the box between them. */
export function frameBetween(figure: Figure, from: PlacePt, to: PlacePt): Frame {
  const middle = { xPt: (from.xPt + to.xPt) / 2, yPt: (from.yPt + to.yPt) / 2 };
  const [dx, dy] = [to.xPt - from.xPt, to.yPt - from.yPt];
  if (figure === 'line' || figure === 'arrow') {
    const line = { widthPt: Math.hypot(dx, dy), heightPt: 1, turnRad: Math.atan2(dy, dx), mirrored: false };
    return storableFrame({ ...middle, ...line }, 1);
  }
  return storableFrame({ ...middle, widthPt: Math.abs(dx), heightPt: Math.abs(dy), turnRad: 0, mirrored: false });
}

/** The frame of a drawing whose top left corner lies at a place. */
export function frameFrom(at: PlacePt, turnRad: number, { widthPt, heightPt }: Drawing): Frame {
  const upright = { xPt: 0, yPt: 0, widthPt, heightPt, turnRad, mirrored: false };
  const middle = movedTo(frameMatrix({ ...upright, ...at }), { xPt: widthPt / 2, yPt: heightPt / 2 });
  return storableFrame({ ...upright, ...middle });
}

/** A text with other letters or another look. */
export function retyped(piece: TextPiece, text: string, style: TextStyle, drawing: Drawing): TextPiece {
  const scale = piece.frame.heightPt / piece.drawing.heightPt;
  const content = { ...piece.content, text, style };
  return { ...piece, content, drawing, frame: grownFrame(piece.frame, drawing, scale, style.align) };
}

/** A text's frame when its letters have changed: it grows from one side or from its middle, and downwards. */
export function grownFrame(frame: Frame, drawing: Drawing, scale: number, held: TextStyle['align']): Frame {
  const size = { widthPt: drawing.widthPt * scale, heightPt: drawing.heightPt * scale };
  const share = { left: 1, center: 0, right: -1 }[held];
  const by = { xPt: ((size.widthPt - frame.widthPt) / 2) * share, yPt: (size.heightPt - frame.heightPt) / 2 };
  return storableFrame({ ...frame, ...size, ...movedTo(frameMatrix(frame), by) });
}

/** Where a text's first line begins. */
export const cornerOf = ({ frame }: TextPiece): PlacePt =>
  movedTo(frameMatrix({ ...frame, mirrored: false }), { xPt: -frame.widthPt / 2, yPt: -frame.heightPt / 2 });

/** Where a figure's label begins. */
export const labelCornerOf = ({ frame, drawing }: ShapePiece): PlacePt => ({
  xPt: frame.xPt - drawing.widthPt / 2,
  yPt: frame.yPt - drawing.heightPt / 2,
});
