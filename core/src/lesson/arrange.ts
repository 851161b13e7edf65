import { boundsOf } from './bounds';
import type { ArrangedPiece } from './mark';
import { moveBy, type Matrix } from './matrix';
import { movedPiece } from './moving';
import type { Piece } from './piece';
import type { RectPt } from './rect';

export type Alignment = 'left' | 'center' | 'right' | 'top' | 'middle' | 'bottom';

/** What is arranged: a single piece, or the pieces of a group, which keep their places to each other. */
export type Unit = readonly Piece[];

/** Pieces as units: those of a group together, in the order of the page. */
export function unitsOf(pieces: readonly Piece[]): Unit[] {
  const units = new Map<string, Piece[]>();
  for (const piece of pieces) {
    const key = piece.group ?? piece.id;
    units.set(key, [...(units.get(key) ?? []), piece]);
  }
  return [...units.values()];
}

const moved = (unit: Unit, by: Matrix): Piece[] => unit.map((piece) => movedPiece(piece, by));

/** Puts one edge, or the middle, of all units where that of all of them together is. */
export function aligned(pieces: readonly Piece[], to: Alignment): Piece[] {
  const all = boundsOf(pieces);
  return unitsOf(pieces).flatMap((unit) => {
    const own = boundsOf(unit);
    const across = { left: all.left - own.left, right: all.right - own.right, center: middle(all).x - middle(own).x };
    const down = { top: all.top - own.top, bottom: all.bottom - own.bottom, middle: middle(all).y - middle(own).y };
    const isAcross = to === 'left' || to === 'right' || to === 'center';
    return moved(unit, isAcross ? moveBy(across[to], 0) : moveBy(0, down[to]));
  });
}

/** Puts the units between the first and the last of a direction, with the same gap between any two of them. */
export function distributed(pieces: readonly Piece[], direction: 'across' | 'down'): Piece[] {
  const [from, to] = direction === 'across' ? (['left', 'right'] as const) : (['top', 'bottom'] as const);
  const units = unitsOf(pieces).map((unit) => ({ unit, bounds: boundsOf(unit) }));
  units.sort((a, b) => a.bounds[from] - b.bounds[from]);
  const all = boundsOf(pieces);
  const occupied = units.reduce((sum, { bounds }) => sum + bounds[to] - bounds[from], 0);
  const gap = (all[to] - all[from] - occupied) / Math.max(1, units.length - 1);
  let at = all[from];
  return units.flatMap(({ unit, bounds }) => {
    const by = at - bounds[from];
    at += bounds[to] - bounds[from] + gap;
    return moved(unit, direction === 'across' ? moveBy(by, 0) : moveBy(0, by));
  });
}

const middle = ({ left, right, top, bottom }: RectPt) => ({ x: (left + right) / 2, y: (top + bottom) / 2 });

/** A line that what is moved has come to lie on, and which other things lie on, too. */
export interface Guide {
  direction: 'across' | 'down';
  /** Where the line runs: x of one that runs down, y of one that runs across. */
  atPt: number;
}

/**
 * How much further something must move so that its edges or its middle lie in line with something else's.
 * @param others the rectangles to fall in line with, such as other pieces and the page
 * @param reachPt no further than this
 */
export function snapped(
  moving: RectPt,
  others: readonly RectPt[],
  reachPt: number,
): { xPt: number; yPt: number; guides: Guide[] } {
  const along = (from: 'left' | 'top', to: 'right' | 'bottom') => {
    const linesOf = (rect: RectPt) => [rect[from], (rect[from] + rect[to]) / 2, rect[to]];
    let best: { by: number; atPt: number } | null = null;
    for (const own of linesOf(moving)) {
      for (const atPt of others.flatMap(linesOf)) {
        const by = atPt - own;
        if (Math.abs(by) <= reachPt && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, atPt };
      }
    }
    return best;
  };
  const [x, y] = [along('left', 'right'), along('top', 'bottom')];
  const guides: Guide[] = [];
  if (x) guides.push({ direction: 'down', atPt: x.atPt });
  if (y) guides.push({ direction: 'across', atPt: y.atPt });
  return { xPt: x?.by ?? 0, yPt: y?.by ?? 0, guides };
}

/** New places in the stacking order for some pieces: above or below all others, in their own order. Only these are moved. */
export function restacked(
  all: readonly Piece[],
  chosen: readonly Piece[],
  to: 'front' | 'back',
): Pick<Required<ArrangedPiece>, 'id' | 'z'>[] {
  const ids = new Set(chosen.map(({ id }) => id));
  const others = all.filter(({ id }) => !ids.has(id));
  const own = all.filter(({ id }) => ids.has(id));
  const first =
    to === 'front'
      ? others.reduce((top, { z }) => Math.max(top, z), 0) + 1
      : others.reduce((bottom, { z }) => Math.min(bottom, z), 1) - own.length;
  return own.map(({ id }, i) => ({ id, z: first + i }));
}
