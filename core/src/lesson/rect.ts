import { movedTo, type Matrix } from './matrix';

/** An axis-parallel rectangle in points; empty when `right <= left`. */
export interface RectPt {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export const EMPTY_RECT: RectPt = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };

export const isEmptyRect = (rect: RectPt): boolean => rect.right <= rect.left || rect.bottom <= rect.top;

export function unionRect(a: RectPt, b: RectPt): RectPt {
  return {
    left: Math.min(a.left, b.left),
    top: Math.min(a.top, b.top),
    right: Math.max(a.right, b.right),
    bottom: Math.max(a.bottom, b.bottom),
  };
}

export function growRect(rect: RectPt, byPt: number): RectPt {
  return { left: rect.left - byPt, top: rect.top - byPt, right: rect.right + byPt, bottom: rect.bottom + byPt };
}

export const rectsMeet = (a: RectPt, b: RectPt): boolean =>
  a.left <= b.right && b.left <= a.right && a.top <= b.bottom && b.top <= a.bottom;

/** The smallest upright rectangle around where a rectangle goes; an empty one stays empty. */
export function movedRect(rect: RectPt, matrix: Matrix): RectPt {
  if (rect.right < rect.left) return rect;
  const corners = [rect.left, rect.right].flatMap((xPt) =>
    [rect.top, rect.bottom].map((yPt) => movedTo(matrix, { xPt, yPt })),
  );
  return {
    left: Math.min(...corners.map(({ xPt }) => xPt)),
    top: Math.min(...corners.map(({ yPt }) => yPt)),
    right: Math.max(...corners.map(({ xPt }) => xPt)),
    bottom: Math.max(...corners.map(({ yPt }) => yPt)),
  };
}

export const contains = (outer: RectPt, inner: RectPt): boolean =>
  outer.left <= inner.left && outer.top <= inner.top && outer.right >= inner.right && outer.bottom >= inner.bottom;
