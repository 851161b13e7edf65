import type { PageId } from './ids';

export const PAPER_KINDS = ['plain', 'ruled', 'squared'] as const;

/** A page's ground. Colours are `#rrggbb`. */
export interface Paper {
  kind: (typeof PAPER_KINDS)[number];
  color: string;
  lineColor: string;
  spacingPt: number;
}

/** A surface with a size in points (1/72 inch). */
export interface Page {
  id: PageId;
  widthPt: number;
  heightPt: number;
  paper: Paper;
}

export const SQUARED_PAPER: Paper = { kind: 'squared', color: '#fffdf7', lineColor: '#d5e3e6', spacingPt: 24 };

/** A 16:9 page of 960 × 540 pt, which a 1280 × 720 video fills exactly. */
export function wideSquaredPage(id: PageId): Page {
  return { id, widthPt: 960, heightPt: 540, paper: SQUARED_PAPER };
}
