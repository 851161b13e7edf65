import type { AssetId } from './ids';
import type { Change } from './mark';

/** A picture, or a page of a PDF, that a lesson shows. */
export interface FileUse {
  asset: AssetId;
  /** `null` for a picture. */
  pageIndex: number | null;
}

/** The pictures and PDF pages a change brings in. */
export function filesIn(change: Change): FileUse[] {
  switch (change.kind) {
    case 'place':
    case 'alter':
      return change.pieces.flatMap((piece) =>
        piece.kind === 'picture' ? [{ asset: piece.asset, pageIndex: null }] : [],
      );
    case 'add-page':
    case 'alter-page':
      return change.page.sheet ? [change.page.sheet] : [];
    case 'ink':
    case 'lift':
    case 'turn':
    case 'drop-page':
    case 'move-page':
      return [];
  }
}
