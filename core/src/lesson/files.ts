import type { AssetId } from './ids';
import type { Change } from './mark';
import type { Page } from './page';
import type { Piece } from './piece';

/** A picture, or a page of a PDF, that a lesson shows. */
export interface FileUse {
  asset: AssetId;
  /** `null` for a picture. */
  pageIndex: number | null;
}

/** The pictures and PDF pages on a page. */
export const filesOn = ({ page, pieces }: { page: Page; pieces: readonly Piece[] }): FileUse[] => [
  ...filesUnder(page),
  ...filesAmong(pieces),
];

/** The pictures and PDF pages a change brings in. */
export function filesIn(change: Change): FileUse[] {
  switch (change.kind) {
    case 'place':
    case 'alter':
      return filesAmong(change.pieces);
    case 'add-page':
    case 'alter-page':
      return filesUnder(change.page);
    case 'ink':
    case 'lift':
    case 'turn':
    case 'look':
    case 'point':
    case 'drop-page':
    case 'move-page':
    case 'transform':
    case 'arrange':
    case 'unread':
      return [];
  }
}

function filesUnder({ sheet, paper }: Page): FileUse[] {
  const picture = paper.picture ? [{ asset: paper.picture, pageIndex: null }] : [];
  return sheet ? [...picture, { asset: sheet.asset, pageIndex: sheet.pageIndex }] : picture;
}

const filesAmong = (pieces: readonly Piece[]): FileUse[] =>
  pieces.flatMap((piece) => (piece.kind === 'picture' ? [{ asset: piece.asset, pageIndex: null }] : []));
