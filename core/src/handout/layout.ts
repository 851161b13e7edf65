import { SHEET_SIZES, type HandoutSettings } from './settings';

/** A rectangle of a sheet, from its upper left corner. */
export interface BoxPt {
  leftPt: number;
  topPt: number;
  widthPt: number;
  heightPt: number;
}

/** Where things of one page lie on its sheet. */
export interface Cell {
  page: BoxPt;
  /** For what comes beside the page; `null` where nothing does. */
  beside: BoxPt | null;
  /** What page it is, below it. */
  label: BoxPt | null;
  code: BoxPt | null;
}

export interface SheetLayout {
  widthPt: number;
  heightPt: number;
  cells: readonly Cell[];
}

/** Printers leave as much bare (common practice). */
const MARGIN_PT = 28;
const GAP_PT = 18;
const LABEL_PT = 16;
/** Phones read a code of 33 squares a side from a hand's breadth when each is half a millimetre. */
const CODE_PT = 48;
const GRIDS = { 1: [1, 1], 2: [1, 2], 4: [2, 2], 6: [2, 3] } as const;
/** How much of a cell is for notes or words: below the page, or beside it where pages lie one above the other. */
const BESIDE_SHARE = { 1: 0.42, 2: 0.4, 4: 0.4, 6: 0.4 } as const;

/**
 * How pages lie on a sheet: as large as they may be, in reading order. The sheet lies across where that makes wide pages larger.
 * @param aspect the pages' width by their height: of the widest, where they differ
 */
export function layoutSheet(settings: HandoutSettings, aspect: number): SheetLayout {
  const upright = SHEET_SIZES[settings.size];
  const across = { widthPt: upright.heightPt, heightPt: upright.widthPt };
  const [one, other] = [upright, across].map((size) => layoutOn(size, settings, aspect));
  return pageArea(other, aspect) > pageArea(one, aspect) * 1.01 ? other : one;
}

const pageArea = ({ cells: [{ page }] }: SheetLayout, aspect: number): number =>
  Math.min(page.widthPt, page.heightPt * aspect) ** 2;

function layoutOn(
  { widthPt, heightPt }: { widthPt: number; heightPt: number },
  settings: HandoutSettings,
  aspect: number,
): SheetLayout {
  const [columns, rows] = GRIDS[settings.perSheet];
  const cellWidth = (widthPt - 2 * MARGIN_PT - (columns - 1) * GAP_PT) / columns;
  const cellHeight = (heightPt - 2 * MARGIN_PT - (rows - 1) * GAP_PT) / rows;
  const cells = Array.from({ length: columns * rows }, (_, n) =>
    cellIn(
      {
        leftPt: MARGIN_PT + (n % columns) * (cellWidth + GAP_PT),
        topPt: MARGIN_PT + Math.floor(n / columns) * (cellHeight + GAP_PT),
        widthPt: cellWidth,
        heightPt: cellHeight,
      },
      settings,
      aspect,
    ),
  );
  return { widthPt, heightPt, cells };
}

function cellIn(cell: BoxPt, { perSheet, beside, hasNumbers, hasCodes }: HandoutSettings, aspect: number): Cell {
  const foot = hasCodes ? CODE_PT + 4 : hasNumbers ? LABEL_PT : 0;
  const hasMore = beside !== 'nothing';
  const isAside = hasMore && perSheet === 2;
  const share = hasMore ? 1 - BESIDE_SHARE[perSheet] : 1;
  const room: BoxPt = {
    ...cell,
    widthPt: isAside ? cell.widthPt * share : cell.widthPt,
    heightPt: (isAside || !hasMore ? cell.heightPt : cell.heightPt * share) - foot,
  };
  const page = fitted(room, aspect);
  const footTop = page.topPt + page.heightPt;
  const pageRight = page.leftPt + page.widthPt;
  const belowTop = footTop + foot + GAP_PT / 2;
  const below = { ...cell, topPt: belowTop, heightPt: cell.topPt + cell.heightPt - belowTop };
  const aside = {
    ...cell,
    leftPt: cell.leftPt + cell.widthPt * share + GAP_PT,
    widthPt: cell.widthPt * (1 - share) - GAP_PT,
  };
  return {
    page,
    beside: hasMore ? (isAside ? aside : below) : null,
    label: hasNumbers
      ? { leftPt: page.leftPt, topPt: footTop + 3, widthPt: page.widthPt, heightPt: LABEL_PT - 3 }
      : null,
    code: hasCodes ? { leftPt: pageRight - CODE_PT, topPt: footTop + 4, widthPt: CODE_PT, heightPt: CODE_PT } : null,
  };
}

/** Lines longer than that are not read with ease (common practice: 75 letters). */
const WIDEST_COLUMN_PT = 420;

/** Where words go on that had no room beside their page: in columns that are read with ease, below a line that says whose they are. */
export function wordColumns({ widthPt, heightPt }: { widthPt: number; heightPt: number }): BoxPt[] {
  const room = widthPt - 2 * MARGIN_PT;
  const count = Math.ceil(room / (WIDEST_COLUMN_PT + GAP_PT));
  const columnPt = (room - (count - 1) * GAP_PT) / count;
  const topPt = MARGIN_PT + LABEL_PT + GAP_PT / 2;
  return Array.from({ length: count }, (_, n) => ({
    leftPt: MARGIN_PT + n * (columnPt + GAP_PT),
    topPt,
    widthPt: columnPt,
    heightPt: heightPt - MARGIN_PT - topPt,
  }));
}

/** The line above such columns. */
export const wordsHead = ({ widthPt }: { widthPt: number }): BoxPt => ({
  leftPt: MARGIN_PT,
  topPt: MARGIN_PT,
  widthPt: widthPt - 2 * MARGIN_PT,
  heightPt: LABEL_PT,
});

/** The largest box of a shape within another, at its top, in its middle. */
export function fitted(room: BoxPt, aspect: number): BoxPt {
  const widthPt = Math.min(room.widthPt, room.heightPt * aspect);
  const heightPt = widthPt / aspect;
  return { leftPt: room.leftPt + (room.widthPt - widthPt) / 2, topPt: room.topPt, widthPt, heightPt };
}
