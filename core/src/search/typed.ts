import type { PageId, PieceId } from '../lesson/ids';
import { pageOf, type Mark } from '../lesson/mark';
import type { Piece } from '../lesson/piece';
import type { Scene } from '../lesson/scene';

/** Something typed that is on a page at some time. */
export interface TypedText {
  text: string;
  page: PageId;
  /** When it is seen first, in the trail's samples; `null` where no viewer ever sees it. */
  atSamples: number | null;
}

/** Something typed that viewers see, from a moment of the trail on. */
export interface SeenText {
  text: string;
  atSamples: number;
}

/** All that was typed and viewers see, each text of a piece once. @param marks as for `typedTexts` */
export const seenTexts = (base: Scene, marks: readonly Mark[]): SeenText[] =>
  typedTexts(base, marks, []).flatMap(({ text, atSamples }) => (atSamples === null ? [] : [{ text, atSamples }]));

/** What was typed in a piece; nothing where it was written by hand. */
export function textOf(piece: Piece): string {
  if (piece.kind === 'text') return piece.content.text;
  if (piece.kind === 'shape') return piece.content.label?.text ?? '';
  return piece.kind === 'formula' ? piece.content.tex : '';
}

/**
 * All that was typed in a lesson, each text of a piece once: what was prepared is first seen when its page is, what came later when
 * it came. What was typed since the last recording is seen by nobody yet.
 * @param base the pages as they were before the first recording
 * @param marks of the trail, in the order of their times
 * @param since what was changed since the last recording
 */
export function typedTexts(base: Scene, marks: readonly Mark[], since: readonly Mark[]): TypedText[] {
  const seenAt = new Map<PageId, number>([[base.shown, 0]]);
  for (const mark of marks) {
    if (mark.kind === 'turn' && !seenAt.has(mark.page)) seenAt.set(mark.page, mark.atSamples);
  }
  const found = new Map<string, TypedText>();
  const add = (page: PageId, pieces: readonly Piece[], atSamples: number | null) => {
    for (const piece of pieces) {
      const text = textOf(piece).trim();
      const key = keyOf(piece.id, text);
      if (text !== '' && !found.has(key)) found.set(key, { text, page, atSamples });
    }
  };
  for (const { page, pieces } of base.pages) add(page.id, pieces, seenAt.get(page.id) ?? null);
  for (const mark of marks) addMark(mark, (page) => later(mark.atSamples, seenAt.get(page)));
  for (const mark of since) addMark(mark, () => null);
  return [...found.values()];

  function addMark(mark: Mark, seen: (page: PageId) => number | null): void {
    const page = pageOf(mark);
    if (page && (mark.kind === 'place' || mark.kind === 'alter')) add(page, mark.pieces, seen(page));
  }
}

const keyOf = (id: PieceId, text: string) => `${id}\n${text}`;

/** What is put on a page before it is turned to is seen then. */
const later = (atSamples: number, pageAt: number | undefined): number | null =>
  pageAt === undefined ? null : Math.max(atSamples, pageAt);
