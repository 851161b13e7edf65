import type { PageId, PieceId, TakeId } from '../lesson/ids';
import { pageOf, type Mark } from '../lesson/mark';
import type { Piece, Stroke } from '../lesson/piece';
import { applyChange, pageStateOf, type Scene } from '../lesson/scene';
import { rangeOf, type Programme, type Segment } from './programme';
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
 * there, nor after it was next changed or taken off. Where there is nothing to edit, the same are given back; and so are all
 * takes and marks that are as they were when the same ones were last edited.
 * @param programme tells which of two takes plays first
 */
export function withInkEdits({ base, takes }: Recorded, edits: readonly InkEdit[], programme: Programme): Recorded {
  if (edits.length === 0) return { base, takes };
  const early = strokesBeforeTheirPages({ base, takes }, edits, programme);
  const last = editedLast.get(takes);
  if (last && last.base === base && last.edits === edits && areEqual([...early], [...last.early])) return last.result;
  const result = edited({ base, takes }, edits, early, last?.result.takes);
  editedLast.set(takes, { base, edits, early, result });
  return result;
}

interface Edited {
  base: Scene;
  edits: readonly InkEdit[];
  early: ReadonlySet<PieceId>;
  result: Recorded;
}

/** What was edited last of some takes. An edit of ink changes few of their marks. */
const editedLast = new WeakMap<ReadonlyMap<TakeId, Take>, Edited>();

function edited(
  { base, takes }: Recorded,
  edits: readonly InkEdit[],
  early: ReadonlySet<PieceId>,
  earlier?: ReadonlyMap<TakeId, Take>,
): Recorded {
  const byStroke = new Map(edits.map((edit) => [edit.stroke, edit]));
  const removed: { edit: InkEdit; mark: InkMark; from: TakeId }[] = [];
  const marksOf = new Map<TakeId, Mark[]>();
  for (const [id, take] of takes) {
    const marks = take.marks.flatMap((mark) => {
      const changed = editedMark(mark, byStroke);
      const edit = changed?.kind === 'ink' ? byStroke.get(changed.stroke.id) : undefined;
      if (!changed || !edit?.at) return changed ?? [];
      removed.push({ edit, mark: changed as InkMark, from: id });
      return [];
    });
    marksOf.set(id, marks);
  }
  let scene = base;
  for (const { edit, mark, from } of removed) {
    const { page } = mark;
    if (edit.at === 'start' && pageStateOf(scene, page)) {
      scene = applyChange(scene, { kind: 'place', page, pieces: [mark.stroke] });
    } else if (edit.at === 'start' || early.has(mark.stroke.id)) {
      putWithPage(marksOf, mark);
    } else {
      const to = edit.at && marksOf.has(edit.at.take) ? edit.at : { take: from, atSamples: mark.atSamples };
      putAt(marksOf.get(to.take)!, { ...mark, atSamples: to.atSamples });
    }
  }
  const asBefore = (take: Take): Take => {
    const marks = marksOf.get(take.id)!;
    const same = [take, earlier?.get(take.id)].find((one) => one && areEqual(one.marks, marks));
    return same ?? { ...take, marks };
  };
  return { base: scene, takes: new Map([...takes].map(([id, take]) => [id, asBefore(take)])) };
}

const areEqual = <T>(one: readonly T[], other: readonly T[]): boolean =>
  one.length === other.length && one.every((value, i) => value === other[i]);

/** The strokes that were moved to a moment which plays before the take that makes their page does. */
function strokesBeforeTheirPages(
  { base, takes }: Recorded,
  edits: readonly InkEdit[],
  programme: Programme,
): ReadonlySet<PieceId> {
  const moved = new Map(edits.flatMap(({ stroke, at }) => (at && at !== 'start' ? [[stroke, at] as const] : [])));
  const early = new Set<PieceId>();
  if (moved.size === 0) return early;
  const makers = new Map<PageId, TakeMoment>();
  for (const [take, { marks }] of takes) {
    for (const mark of marks) {
      if (mark.kind === 'add-page') makers.set(mark.page.id, { take, atSamples: mark.atSamples });
    }
  }
  for (const { marks } of takes.values()) {
    for (const mark of marks) {
      const to = mark.kind === 'ink' ? moved.get(mark.stroke.id) : undefined;
      if (!to || mark.kind !== 'ink' || pageStateOf(base, mark.page)) continue;
      const made = makers.get(mark.page);
      if (made && made.take !== to.take && playsBefore(programme, to, made)) early.add(mark.stroke.id);
    }
  }
  return early;
}

/** Whether one moment plays, and sooner than another. */
function playsBefore(programme: Programme, one: TakeMoment, other: TakeMoment): boolean {
  const firstAt = ({ take, atSamples }: TakeMoment) =>
    programme.findIndex((segment) => segment.take === take && isIn(segment, atSamples));
  const [first, second] = [firstAt(one), firstAt(other)];
  return first >= 0 && (second < 0 || first < second);
}

function isIn(segment: Segment, atSamples: number): boolean {
  const { fromSamples, toSamples } = rangeOf(segment);
  return fromSamples <= atSamples && atSamples <= toSamples;
}

type InkMark = Extract<Mark, { kind: 'ink' }>;

function editedMark(mark: Mark, edits: ReadonlyMap<PieceId, InkEdit>): Mark | null {
  if (mark.kind === 'ink') {
    const stroke = editedPiece(mark.stroke, edits);
    return stroke && (stroke === mark.stroke ? mark : sameMark(mark, { ...mark, stroke }));
  }
  if (mark.kind !== 'place' && mark.kind !== 'alter') return mark;
  if (!mark.pieces.some(({ id }) => edits.has(id))) return mark;
  return sameMark(mark, { ...mark, pieces: mark.pieces.flatMap((piece) => editedPiece(piece, edits) ?? []) });
}

/** What was last made of a mark. */
const madeOf = new WeakMap<Mark, Mark>();

/** What is made of a mark: the very same as last time, where that was alike, so that nothing is worked out anew for it. */
function sameMark(mark: Mark, made: Mark): Mark {
  const last = madeOf.get(mark);
  if (last && areEqual(piecesOf(last), piecesOf(made))) return last;
  madeOf.set(mark, made);
  return made;
}

const piecesOf = (mark: Mark): readonly Piece[] =>
  mark.kind === 'ink' ? [mark.stroke] : mark.kind === 'place' || mark.kind === 'alter' ? mark.pieces : [];

function editedPiece<P extends Piece>(piece: P, edits: ReadonlyMap<PieceId, InkEdit>): P | null {
  const edit = edits.get(piece.id);
  if (!edit || piece.kind !== 'stroke') return piece;
  if (edit.isOut) return null;
  return edit.color && edit.color !== piece.pen.color ? (recoloured(piece, edit.color) as P) : piece;
}

/** Strokes in the colour they were last given. */
const recolouredLast = new WeakMap<Stroke, Stroke>();

function recoloured(stroke: Stroke, color: string): Stroke {
  const last = recolouredLast.get(stroke);
  if (last?.pen.color === color) return last;
  const fresh = { ...stroke, pen: { ...stroke.pen, color } };
  recolouredLast.set(stroke, fresh);
  return fresh;
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
  if (mark.kind === 'lift' || mark.kind === 'transform') return mark.pieceIds.includes(stroke.id);
  if (mark.kind === 'drop-page') return true;
  return (mark.kind === 'alter' || mark.kind === 'arrange') && mark.pieces.some(({ id }) => id === stroke.id);
}
