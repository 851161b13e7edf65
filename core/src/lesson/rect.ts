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
