import type { InkPoints } from '../ink/points';
import type { PieceId } from '../lesson/ids';
import type { PassingChange } from '../lesson/mark';
import type { Page } from '../lesson/page';
import type { Piece } from '../lesson/piece';
import type { RectPt } from '../lesson/rect';
import { applyChanges, type PageState } from '../lesson/scene';

/** What those who follow a page live see of it at one moment. */
export interface Sight {
  readonly state: PageState;
  /** The part of the page that is looked at; `null` for all of it. */
  readonly look: RectPt | null;
  /** How many points are seen of strokes that are replayed just now. All others are whole. */
  readonly growing: ReadonlyMap<PieceId, number>;
  /** What is being written or drawn just now, above all pieces. */
  readonly wet: readonly Piece[];
  readonly passing: readonly SeenPassing[];
}

/** Something that is seen for a while. */
export interface SeenPassing {
  readonly change: PassingChange;
  /** How long ago it began, when it was told. */
  readonly sinceMs: number;
  /** It is still being done, and does not fade. */
  readonly isHeld: boolean;
}

/** Of a stroke, the points from one of them on; anything else is whole. */
interface WetChange {
  readonly from: number;
  readonly piece: Piece;
}

/** What makes one sight of another. What is not said stays as it was. */
export interface SightChange {
  readonly page?: Page;
  /** Nothing lies on the page but what is put there. */
  readonly isWhole: boolean;
  readonly gone: readonly PieceId[];
  /** Pieces that are new, or in a new state. */
  readonly put: readonly Piece[];
  readonly look?: RectPt | null;
  readonly growing?: ReadonlyMap<PieceId, number>;
  readonly wet?: readonly WetChange[];
  readonly passing?: readonly SeenPassing[];
}

/** All of a sight, for whoever knows nothing of it. */
export const wholeOf = ({ state, look, growing, wet, passing }: Sight): SightChange => ({
  page: state.page,
  isWhole: true,
  gone: [],
  put: state.pieces,
  look,
  growing,
  wet: wet.map((piece) => ({ from: 0, piece })),
  passing,
});

/**
 * What makes one sight of another, or `null` where nothing does. Pages share what has not changed, so what is found are pieces that
 * are no longer the same values; of a stroke that is being written, only its new points are told.
 */
export function sightChange(before: Sight, after: Sight): SightChange | null {
  if (before.state.page.id !== after.state.page.id) return wholeOf(after);
  const pieces = before.state.pieces === after.state.pieces ? SAME_PIECES : piecesChange(before.state, after.state);
  if (pieces === null) return wholeOf(after);
  const change: SightChange = {
    ...pieces,
    ...(after.state.page === before.state.page ? {} : { page: after.state.page }),
    ...(sameRect(before.look, after.look) ? {} : { look: after.look }),
    ...(sameGrowing(before.growing, after.growing) ? {} : { growing: after.growing }),
    ...(sameWet(before.wet, after.wet) ? {} : { wet: after.wet.map((piece, i) => wetChange(before.wet[i], piece)) }),
    ...(samePassing(before.passing, after.passing) ? {} : { passing: after.passing }),
  };
  const isNothing = change.gone.length + change.put.length === 0 && Object.keys(change).length === 3;
  return isNothing ? null : change;
}

/**
 * The sight after a change.
 * @param before `null` where nothing is known yet: then the change has to be a whole one
 * @throws Error where there is nothing the change could be made to
 */
export function withChange(before: Sight | null, change: SightChange): Sight {
  const known = change.isWhole ? null : before;
  const page = change.page ?? known?.state.page;
  if (!page) throw new Error('This change belongs to a page that is not known.');
  const wet = change.wet?.map((one, i) => wetAfter(before?.wet[i], one));
  return {
    state: { page, pieces: piecesAfter(page, known?.state.pieces ?? [], change) },
    look: change.look === undefined ? (known?.look ?? null) : change.look,
    growing: change.growing ?? known?.growing ?? new Map(),
    wet: wet ?? known?.wet ?? [],
    passing: change.passing ?? known?.passing ?? [],
  };
}

type PiecesChange = Pick<SightChange, 'isWhole' | 'gone' | 'put'>;
const SAME_PIECES: PiecesChange = { isWhole: false, gone: [], put: [] };

/** What happened to a page's pieces; `null` where it takes all of them to tell. */
function piecesChange({ page, pieces: old }: PageState, { pieces: now }: PageState): PiecesChange | null {
  const [kept, left] = [new Set(now), new Map(now.map((piece) => [piece.id, piece]))];
  const [known, ids] = [new Set(old), new Set(old.map(({ id }) => id))];
  const changed = old.filter((piece) => !kept.has(piece));
  const gone = changed.filter(({ id }) => !left.has(id)).map(({ id }) => id);
  const put = now.filter((piece) => !known.has(piece));
  const change: PiecesChange = { isWhole: false, gone, put };
  // Among pieces of the same place in the stack, whoever follows has them in another order where they were put again.
  const isLaid = put.every(({ id }) => !ids.has(id)) && changed.length === gone.length;
  if (isLaid && put.length <= 1) return change;
  const laid = piecesAfter(page, old, change);
  return laid.length === now.length && laid.every((piece, i) => piece === now[i]) ? change : null;
}

function piecesAfter(page: Page, pieces: readonly Piece[], { isWhole, gone, put }: PiecesChange): readonly Piece[] {
  if (isWhole) return put;
  if (gone.length + put.length === 0) return pieces;
  const scene = { pages: [{ page, pieces }], shown: page.id, look: null };
  const known = new Set(pieces.map(({ id }) => id));
  const changed = applyChanges(scene, [
    { kind: 'lift', page: page.id, pieceIds: gone },
    { kind: 'alter', page: page.id, pieces: put.filter(({ id }) => known.has(id)) },
    { kind: 'place', page: page.id, pieces: put },
  ]);
  return changed.pages[0].pieces;
}

function wetChange(before: Piece | undefined, after: Piece): WetChange {
  if (before?.kind !== 'stroke' || after.kind !== 'stroke') return { from: 0, piece: after };
  // One point is always told: a stroke has at least one.
  const from = Math.min(sameFrom(before.points, after.points), after.points.count - 1);
  return { from, piece: { ...after, points: after.points.part(from, after.points.count) } };
}

function wetAfter(before: Piece | undefined, { from, piece }: WetChange): Piece {
  if (from === 0 || piece.kind !== 'stroke') return piece;
  if (before?.kind !== 'stroke' || before.points.count < from)
    throw new Error('The beginning of this ink is not known.');
  return { ...piece, points: before.points.part(0, from).followedBy(piece.points) };
}

/** How many points two strokes have in common from their beginning. */
function sameFrom(one: InkPoints, other: InkPoints): number {
  const most = Math.min(one.count, other.count);
  let at = 0;
  while (at < most && one.isSameAt(at, other)) at++;
  return at;
}

const sameRect = (one: RectPt | null, other: RectPt | null): boolean =>
  one === other ||
  (one !== null &&
    other !== null &&
    one.left === other.left &&
    one.top === other.top &&
    one.right === other.right &&
    one.bottom === other.bottom);

const sameGrowing = (one: Sight['growing'], other: Sight['growing']): boolean =>
  one.size === other.size && [...one].every(([id, count]) => other.get(id) === count);

/** Strokes that are written are made anew whenever somebody looks: they are the same where their points are. */
const sameWet = (one: Sight['wet'], other: Sight['wet']): boolean =>
  one.length === other.length && one.every((piece, i) => isSameWet(piece, other[i]));

const isSameWet = (one: Piece, other: Piece): boolean =>
  one === other ||
  (one.kind === 'stroke' && other.kind === 'stroke' && one.pen === other.pen && one.points.equals(other.points));

/** How long ago something began tells whoever follows by themselves. */
const samePassing = (one: Sight['passing'], other: Sight['passing']): boolean =>
  one.length === other.length &&
  one.every(({ change, isHeld }, i) => change === other[i].change && isHeld === other[i].isHeld);
