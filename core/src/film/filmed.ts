import type { Piece } from '../lesson/piece';
import type { Mark } from '../lesson/mark';
import type { Payload } from '../formats/payload';
import type { FilmSettings } from './settings';

/**
 * What of a lesson a film shows: without what was pointed at, or without rulers and the like, where they are not wanted. Marks about a
 * piece that is left out stay: they change nothing.
 */
export function filmed(
  { base, trail }: Payload,
  { hasPointer, hasInstruments }: Pick<FilmSettings, 'hasPointer' | 'hasInstruments'>,
): Payload {
  const isShown = (piece: Piece) => hasInstruments || piece.kind !== 'instrument';
  const marks = trail.marks.flatMap((mark): Mark[] => {
    if (mark.kind === 'point') return hasPointer ? [mark] : [];
    const isOfPieces = mark.kind === 'place' || mark.kind === 'alter';
    return [isOfPieces && !mark.pieces.every(isShown) ? { ...mark, pieces: mark.pieces.filter(isShown) } : mark];
  });
  const pages = base.pages.map((state) =>
    state.pieces.every(isShown) ? state : { ...state, pieces: state.pieces.filter(isShown) },
  );
  return { base: { ...base, pages }, trail: { ...trail, marks } };
}
