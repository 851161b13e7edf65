import type { Piece } from '../lesson/piece';
import type { Mark } from '../lesson/mark';
import type { Payload } from '../formats/payload';
import type { FilmSettings } from './settings';

/**
 * What of a lesson a film shows: without what was pointed at, or without rulers and the like, where they are not wanted. These stay where
 * they are and are not seen, so that whatever is done to pieces does the same as in the lesson.
 */
export function filmed(
  { base, trail }: Payload,
  { hasPointer, hasInstruments }: Pick<FilmSettings, 'hasPointer' | 'hasInstruments'>,
): Payload {
  const isShown = (piece: Piece) => hasInstruments || piece.kind !== 'instrument';
  const seen = (pieces: readonly Piece[]) =>
    pieces.every(isShown) ? pieces : pieces.map((piece) => (isShown(piece) ? piece : { ...piece, opacity: 0 }));
  const marks = trail.marks.flatMap((mark): Mark[] => {
    if (mark.kind === 'point') return hasPointer ? [mark] : [];
    return [mark.kind === 'place' || mark.kind === 'alter' ? { ...mark, pieces: seen(mark.pieces) } : mark];
  });
  const pages = base.pages.map((state) => ({ ...state, pieces: seen(state.pieces) }));
  return { base: { ...base, pages }, trail: { ...trail, marks } };
}
