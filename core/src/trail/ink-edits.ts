import type { PieceId, TakeId } from '../lesson/ids';
import { pageOf, type Mark } from '../lesson/mark';
import type { Piece, Stroke } from '../lesson/piece';
import { applyChange, pageStateOf, type Scene } from '../lesson/scene';
import type { Take } from './take';

/** A moment of a take. It plays wherever the programme plays it. */
export interface TakeMoment {
  take: TakeId;
  atSamples: number;
}

/** What is to be different about a stroke that was recorded. The takes themselves never change. */
export interface InkEdit {
  stroke: PieceId;
  /** It is as if it had never been written. */
  isOut?: true;
  /** When it begins instead; `start`: it lies on its page from the beginning. */
  at?: TakeMoment | 'start';
  /** `#rrggbb`. */
  color?: string;
}

/** Edits with one stroke edited further. */
export function withInkEdit(edits: readonly InkEdit[], edit: InkEdit): readonly InkEdit[] {
  const before = edits.find(({ stroke }) => stroke === edit.stroke);
  return [...edits.filter((one) => one !== before), { ...before, ...edit }];
}

/** What a programme plays: the pages as prepared, and the takes. */
export interface Recorded {
  base: Scene;
  takes: ReadonlyMap<TakeId, Take>;
}

/**
 * The pages and takes with strokes taken out, at other times, or in other colours. A stroke never comes before its page is
 * there, nor after it was next changed or taken off. Where there is nothing to edit, the same are given back.
 */
export function withInkEdits({ base, takes }: Recorded, edits: readonly InkEdit[]): Recorded {
  if (edits.length === 0) return { base, takes };
  const byStroke = new Map(edits.map((edit) => [edit.stroke, edit]));
  const removed: { edit: InkEdit; mark: InkMark; from: TakeId }[] = [];
  const marksOf = new Map<TakeId, Mark[]>();
  for (const [id, take] of takes) {
    const marks = take.marks.flatMap((mark) => {
      const edited = editedMark(mark, byStroke);
      const edit = edited?.kind === 'ink' ? byStroke.get(edited.stroke.id) : undefined;
      if (!edited || !edit?.at) return edited ?? [];
      removed.push({ edit, mark: edited as InkMark, from: id });
      return [];
    });
    marksOf.set(id, marks);
  }
  let scene = base;
  for (const { edit, mark, from } of removed) {
    const { page } = mark;
    if (edit.at === 'start') {
      if (pageStateOf(scene, page)) scene = applyChange(scene, { kind: 'place', page, pieces: [mark.stroke] });
      else putWithPage(marksOf, mark);
    } else {
      const to = edit.at && marksOf.has(edit.at.take) ? edit.at : { take: from, atSamples: mark.atSamples };
      putAt(marksOf.get(to.take)!, { ...mark, atSamples: to.atSamples });
    }
  }
  return { base: scene, takes: new Map([...takes].map(([id, take]) => [id, { ...take, marks: marksOf.get(id)! }])) };
}

type InkMark = Extract<Mark, { kind: 'ink' }>;

function editedMark(mark: Mark, edits: ReadonlyMap<PieceId, InkEdit>): Mark | null {
  if (mark.kind === 'ink') {
    const stroke = editedPiece(mark.stroke, edits);
    return stroke && (stroke === mark.stroke ? mark : { ...mark, stroke });
  }
  if (mark.kind !== 'place' && mark.kind !== 'alter') return mark;
  if (!mark.pieces.some(({ id }) => edits.has(id))) return mark;
  return { ...mark, pieces: mark.pieces.flatMap((piece) => editedPiece(piece, edits) ?? []) };
}

function editedPiece<P extends Piece>(piece: P, edits: ReadonlyMap<PieceId, InkEdit>): P | null {
  const edit = edits.get(piece.id);
  if (!edit || piece.kind !== 'stroke') return piece;
  if (edit.isOut) return null;
  return edit.color ? { ...piece, pen: { ...(piece as Stroke).pen, color: edit.color } } : piece;
}

/** Lays a stroke on a page that is made in a take, as soon as it is there. */
function putWithPage(marksOf: ReadonlyMap<TakeId, Mark[]>, { page, stroke }: InkMark): void {
  for (const marks of marksOf.values()) {
    const made = marks.findIndex((mark) => mark.kind === 'add-page' && mark.page.id === page);
    if (made < 0) continue;
    marks.splice(made + 1, 0, { kind: 'place', page, pieces: [stroke], atSamples: marks[made].atSamples });
    return;
  }
}

/** Puts a stroke into a take's marks, at its time as far as its page is there and nothing has become of it. */
function putAt(marks: Mark[], mark: InkMark): void {
  const made = marks.findIndex((one) => one.kind === 'add-page' && one.page.id === mark.page);
  const changed = marks.findIndex((one) => namesStroke(one, mark));
  const due = marks.findIndex(({ atSamples }) => atSamples > mark.atSamples);
  const inTime = due < 0 ? marks.length : due;
  const at = Math.max(made + 1, changed < 0 ? inTime : Math.min(changed, inTime));
  const [before, after] = [marks[at - 1]?.atSamples ?? 0, marks[at]?.atSamples ?? Infinity];
  marks.splice(at, 0, { ...mark, atSamples: Math.min(after, Math.max(before, mark.atSamples)) });
}

function namesStroke(mark: Mark, { page, stroke }: InkMark): boolean {
  if (pageOf(mark) !== page) return false;
  if (mark.kind === 'lift') return mark.pieceIds.includes(stroke.id);
  if (mark.kind === 'drop-page') return true;
  return mark.kind === 'alter' && mark.pieces.some(({ id }) => id === stroke.id);
}
