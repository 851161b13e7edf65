import { inverted, movedTo, scaleOfMatrix } from '../lesson/matrix';
import type { Stroke } from '../lesson/piece';

interface PlacePt {
  xPt: number;
  yPt: number;
}

/** A round tool that moves along a line of the page, seen from where a stroke was written before it was moved. */
export interface LocalPath {
  from: PlacePt;
  to: PlacePt;
  radiusPt: number;
}

export function localPath({ matrix }: Stroke, from: PlacePt, to: PlacePt, radiusPt: number): LocalPath {
  if (!matrix) return { from, to, radiusPt };
  const back = inverted(matrix);
  return { from: movedTo(back, from), to: movedTo(back, to), radiusPt: radiusPt * scaleOfMatrix(back) };
}
