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
  /** Lines to write on; `null` where there is no room for notes. */
  notes: BoxPt | null;
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
/** How much of a cell is for notes: below the page, or beside it where it lies one above the other. */
const NOTES_SHARE = { 1: 0.42, 2: 0.4, 4: 0.4, 6: 0.4 } as const;

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

function cellIn(cell: BoxPt, { perSheet, hasNotes, hasNumbers, hasCodes }: HandoutSettings, aspect: number): Cell {
  const foot = hasCodes ? CODE_PT + 4 : hasNumbers ? LABEL_PT : 0;
  const notesBeside = hasNotes && perSheet === 2;
  const share = hasNotes ? 1 - NOTES_SHARE[perSheet] : 1;
  const room: BoxPt = {
    ...cell,
    widthPt: notesBeside ? cell.widthPt * share : cell.widthPt,
    heightPt: (notesBeside || !hasNotes ? cell.heightPt : cell.heightPt * share) - foot,
  };
  const page = fitted(room, aspect);
  const footTop = page.topPt + page.heightPt;
  const pageRight = page.leftPt + page.widthPt;
  const notesTop = footTop + foot + GAP_PT / 2;
  const below = { ...cell, topPt: notesTop, heightPt: cell.topPt + cell.heightPt - notesTop };
  const beside = {
    ...cell,
    leftPt: cell.leftPt + cell.widthPt * share + GAP_PT,
    widthPt: cell.widthPt * (1 - share) - GAP_PT,
  };
  return {
    page,
    notes: hasNotes ? (notesBeside ? beside : below) : null,
    label: hasNumbers
      ? { leftPt: page.leftPt, topPt: footTop + 3, widthPt: page.widthPt, heightPt: LABEL_PT - 3 }
      : null,
    code: hasCodes ? { leftPt: pageRight - CODE_PT, topPt: footTop + 4, widthPt: CODE_PT, heightPt: CODE_PT } : null,
  };
}

/** The largest box of a shape within another, at its top, in its middle. */
export function fitted(room: BoxPt, aspect: number): BoxPt {
  const widthPt = Math.min(room.widthPt, room.heightPt * aspect);
  const heightPt = widthPt / aspect;
  return { leftPt: room.leftPt + (room.widthPt - widthPt) / 2, topPt: room.topPt, widthPt, heightPt };
}
