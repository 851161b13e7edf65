import { STEPS_PER_PT } from '../ink/points';
import type { AssetId, PageId } from './ids';
import type { RectPt } from './rect';

/** In the order of their codes in stored bytes; new ones go at the end. */
export const PAPER_KINDS = [
  'plain',
  'ruled',
  'squared',
  'margin',
  'dotted',
  'isometric',
  'polar',
  'staves',
  'handwriting',
  'axes',
] as const;
export type PaperKind = (typeof PAPER_KINDS)[number];

/** A page's ground. Colours are `#rrggbb`. */
export interface Paper {
  kind: PaperKind;
  color: string;
  lineColor: string;
  /** Between two lines, dots or circles; for staves and handwriting, between the lines of one group. */
  spacingPt: number;
  /** A picture on the ground, beneath the lines: whole, as large as the page lets it be, in the middle. */
  picture: AssetId | null;
}

/** What is printed on a page, beneath all ink: a page of a PDF, or a picture. Its top left corner is the page's origin. */
export interface Sheet {
  asset: AssetId;
  /** Which page of a PDF, from 0; `null` for a picture. */
  pageIndex: number | null;
  widthPt: number;
  heightPt: number;
}

/** What a centimetre of a page stands for, such as 2 km. */
export interface PageScale {
  perCm: number;
  unit: string;
}

/** A surface with a size in points (1/72 inch). */
export interface Page {
  id: PageId;
  /** Where its left and top edges lie. Room added there moves the edges, so what is on the page stays where it is. */
  leftPt: number;
  topPt: number;
  widthPt: number;
  heightPt: number;
  paper: Paper;
  sheet: Sheet | null;
  /** What a centimetre of the page stands for, as on a chart; `null` where it is a centimetre. */
  scale: PageScale | null;
}

/** How large and how small a page may be: 14,400 pt is 200 inches, the largest page ISO 32000-1 (annex C.2) knows. */
export const LEAST_SIDE_PT = 72;
export const LARGEST_SIDE_PT = 14_400;

export const PAGE_SIZES = [
  { name: 'Wide 16:9', widthPt: 960, heightPt: 540 },
  { name: '4:3', widthPt: 960, heightPt: 720 },
  { name: 'Square', widthPt: 720, heightPt: 720 },
  { name: 'Upright phone', widthPt: 540, heightPt: 960 },
  // ISO 216 and ANSI/ASME Y14.1, in points.
  { name: 'A4 upright', widthPt: 595.28125, heightPt: 841.875 },
  { name: 'A4 across', widthPt: 841.875, heightPt: 595.28125 },
  { name: 'Letter upright', widthPt: 612, heightPt: 792 },
  { name: 'Letter across', widthPt: 792, heightPt: 612 },
] as const;

export const SQUARED_PAPER: Paper = {
  kind: 'squared',
  color: '#fffdf7',
  lineColor: '#d5e3e6',
  spacingPt: 24,
  picture: null,
};
export const BLANK_PAPER: Paper = { ...SQUARED_PAPER, kind: 'plain', color: '#ffffff' };

/** A page with nothing printed on it, its top left corner at the origin. */
export function blankPage(id: PageId, size: { widthPt: number; heightPt: number }, paper = SQUARED_PAPER): Page {
  return { id, leftPt: 0, topPt: 0, widthPt: size.widthPt, heightPt: size.heightPt, paper, sheet: null, scale: null };
}

/**
 * A page on which a PDF's page, or a picture (`pageIndex` is `null`), is printed. A tiny one keeps its shape: the paper around it is as
 * large as a page must be.
 */
export function sheetPage(
  id: PageId,
  { asset, pageIndex, ...size }: Pick<NonNullable<Page['sheet']>, 'asset' | 'pageIndex' | 'widthPt' | 'heightPt'>,
): Page {
  const onGrid = (pt: number) => Math.round(pt * STEPS_PER_PT) / STEPS_PER_PT;
  const sheet = { asset, pageIndex, widthPt: onGrid(size.widthPt), heightPt: onGrid(size.heightPt) };
  const page = { widthPt: boundedSide(sheet.widthPt), heightPt: boundedSide(sheet.heightPt) };
  return { ...blankPage(id, page, BLANK_PAPER), sheet };
}

/** A 16:9 page of 960 × 540 pt, which a 1280 × 720 video fills exactly. */
export const wideSquaredPage = (id: PageId): Page => blankPage(id, PAGE_SIZES[0]);

export const pageRect = ({ leftPt, topPt, widthPt, heightPt }: Page): RectPt => ({
  left: leftPt,
  top: topPt,
  right: leftPt + widthPt,
  bottom: topPt + heightPt,
});

/** Room to write, added to (or, where negative, taken from) each side of a page. */
export interface Room {
  leftPt: number;
  topPt: number;
  rightPt: number;
  bottomPt: number;
}

/** The page with more room; its sides stay within the bounds, and what is printed on it stays whole. */
export function withRoom(page: Page, room: Room): Page {
  const { sheet } = page;
  const least = { right: sheet ? sheet.widthPt : -Infinity, bottom: sheet ? sheet.heightPt : -Infinity };
  const left = Math.min(page.leftPt - room.leftPt, sheet ? 0 : Infinity);
  const top = Math.min(page.topPt - room.topPt, sheet ? 0 : Infinity);
  const right = Math.max(page.leftPt + page.widthPt + room.rightPt, least.right);
  const bottom = Math.max(page.topPt + page.heightPt + room.bottomPt, least.bottom);
  return { ...page, leftPt: left, topPt: top, widthPt: boundedSide(right - left), heightPt: boundedSide(bottom - top) };
}

/** Room is given a third of the page, as it was at first, at a time; in steps of the grid on which everything lies. */
const ROOM_STEP = 1 / 3;
const GRID_PER_PT = 32;

/**
 * The page with a step more room on a side, or a step less: never less than it had at first.
 * @param first the page's sides as it was before it was given any, in points
 */
export function withRoomStep(page: Page, first: RectPt, side: keyof Room, step: 'more' | 'less'): Page {
  const isAcross = side === 'leftPt' || side === 'rightPt';
  const lengthPt = isAcross ? first.right - first.left : first.bottom - first.top;
  const stepPt = Math.round(lengthPt * ROOM_STEP * GRID_PER_PT) / GRID_PER_PT;
  const now = pageRect(page);
  const given: Room = {
    leftPt: first.left - now.left,
    topPt: first.top - now.top,
    rightPt: now.right - first.right,
    bottomPt: now.bottom - first.bottom,
  };
  const by = step === 'more' ? stepPt : -Math.min(stepPt, Math.max(0, given[side]));
  return withRoom(page, { leftPt: 0, topPt: 0, rightPt: 0, bottomPt: 0, [side]: by });
}

/** Ink this near to the foot of a page (as a share of its height at first) wants more page. */
const FOOT_SHARE = 1 / 8;
const GROWN_BY = 1 / 2;

/** The page with more room below, once something on it reaches down to its foot; else the same page. */
export function grown(page: Page, lowestPt: number): Page {
  // What a page was before it grew is its width's business: it grows by the same each time.
  const stepPt = Math.min(page.heightPt, page.sheet?.heightPt ?? page.widthPt * (9 / 16));
  if (lowestPt < page.topPt + page.heightPt - stepPt * FOOT_SHARE) return page;
  return withRoom(page, { leftPt: 0, topPt: 0, rightPt: 0, bottomPt: Math.round(stepPt * GROWN_BY) });
}

/** The room a page has around what is printed on it. */
export function roomOf(page: Page): Room {
  const { sheet } = page;
  if (!sheet) return { leftPt: 0, topPt: 0, rightPt: 0, bottomPt: 0 };
  return {
    leftPt: -page.leftPt,
    topPt: -page.topPt,
    rightPt: page.leftPt + page.widthPt - sheet.widthPt,
    bottomPt: page.topPt + page.heightPt - sheet.heightPt,
  };
}

export const boundedSide = (pt: number): number => Math.min(LARGEST_SIDE_PT, Math.max(LEAST_SIDE_PT, pt));
