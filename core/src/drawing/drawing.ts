import { STEPS_PER_PT } from '../ink/points';
import { COORDINATES, type Path } from './path';

/** Letters' outlines are in thousandths of their size, y downwards, from where they stand on the line. */
export const UNITS_PER_EM = 1000;

export interface Letter {
  outline: Path;
  xPt: number;
  yPt: number;
  sizePt: number;
}

/** A line or an area. `null` is the colour of the piece itself. */
export interface DrawnLine {
  /** In points from the drawing's top left corner. */
  path: Path;
  color: string | null;
  /** 0 for an area. */
  widthPt: number;
}

/** What text, a formula or a plot looks like: outlines of letters, and lines. */
export interface Drawing {
  widthPt: number;
  heightPt: number;
  letters: readonly Letter[];
  lines: readonly DrawnLine[];
}

export const NOTHING_DRAWN: Drawing = { widthPt: 0, heightPt: 0, letters: [], lines: [] };

const toSteps = (pt: number): number => Math.round(pt * STEPS_PER_PT) / STEPS_PER_PT + 0;

/** The drawing on the storage grid, so that what is shown now is what is read back later. */
export const storableDrawing = ({ widthPt, heightPt, letters, lines }: Drawing): Drawing => ({
  widthPt: toSteps(widthPt),
  heightPt: toSteps(heightPt),
  letters: letters.map(({ outline, xPt, yPt, sizePt }) => ({
    outline,
    xPt: toSteps(xPt),
    yPt: toSteps(yPt),
    sizePt: toSteps(sizePt),
  })),
  lines: lines.map(({ path, color, widthPt }) => ({
    path: path.map(onGrid(toSteps)),
    color,
    widthPt: toSteps(widthPt),
  })),
});

/** Puts a path's coordinates on a grid; its commands stay. */
export function onGrid(snap: (value: number) => number): (value: number, index: number, path: Path) => number {
  let next = 0;
  return (value, index) => {
    if (index !== next) return snap(value);
    next += 1 + COORDINATES[value];
    return value;
  };
}
