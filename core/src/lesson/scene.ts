import type { PageId, PieceId } from './ids';
import { isPassing, type ArrangedPiece, type Change } from './mark';
import { arrangementOf, movedPiece } from './moving';
import type { Page } from './page';
import type { Piece } from './piece';
import type { RectPt } from './rect';
import type { Unread } from './unread';

/** A page as it is at one moment, its pieces from the lowest to the topmost. */
export interface PageState {
  readonly page: Page;
  readonly pieces: readonly Piece[];
  /** What lies on it that this program could not read. */
  readonly unread?: readonly Unread[];
}

/** All that can be seen of a lesson at one moment. Scenes are values: a change makes a new one that shares the rest. */
export interface Scene {
  readonly pages: readonly PageState[];
  readonly shown: PageId;
  /** The part of the page that is looked at; `null` for all of it. */
  readonly look: RectPt | null;
}

export function sceneOf(pages: readonly PageState[]): Scene {
  if (pages.length === 0) throw new Error('A lesson needs at least one page.');
  return { pages, shown: pages[0].page.id, look: null };
}

export function pageStateOf(scene: Scene, id: PageId): PageState | undefined {
  return scene.pages.find((state) => state.page.id === id);
}

/** The state of the page that is shown. */
export function shownPage(scene: Scene): PageState {
  return pageStateOf(scene, scene.shown) ?? scene.pages[0];
}

/** The stacking place above all pieces of a page. */
export function topZ(state: PageState): number {
  return state.pieces.length === 0 ? 1 : state.pieces[state.pieces.length - 1].z + 1;
}

/**
 * The scene after a change. A change that names a page or piece which is not there, or adds one which already is, gives
 * back the same scene. Where the page that a new one was put after has gone, the new one goes to the end: it is not lost.
 */
export function applyChange(scene: Scene, change: Change): Scene {
  switch (change.kind) {
    case 'ink':
      if (isPassing(change)) return scene;
      return withPieces(scene, change.page, (pieces) => placed(pieces, [change.stroke]));
    case 'place':
      return withUnread(
        withPieces(scene, change.page, (pieces) => placed(pieces, change.pieces)),
        change,
      );
    case 'lift':
      return withPieces(scene, change.page, (pieces) => lifted(pieces, change.pieceIds));
    case 'alter':
      return withUnread(
        withPieces(scene, change.page, (pieces) => altered(pieces, change.pieces)),
        change,
      );
    case 'transform':
      return withPieces(scene, change.page, (pieces) => {
        const meant = new Set(change.pieceIds);
        const moved = pieces.filter(({ id }) => meant.has(id)).map((piece) => movedPiece(piece, change.matrix));
        return moved.length === 0 ? pieces : altered(pieces, moved);
      });
    case 'arrange':
      return withPieces(scene, change.page, (pieces) => arranged(pieces, change.pieces));
    case 'unread':
      return scene;
    case 'turn':
      if (change.page === scene.shown || !pageStateOf(scene, change.page)) return scene;
      return { ...scene, shown: change.page, look: null };
    case 'look':
      return change.page === scene.shown && change.rect !== scene.look ? { ...scene, look: change.rect } : scene;
    case 'point':
      return scene;
    case 'add-page': {
      if (pageStateOf(scene, change.page.id)) return scene;
      const at = placeAfter(scene.pages, change.after) ?? scene.pages.length;
      return { ...scene, pages: scene.pages.toSpliced(at, 0, { page: change.page, pieces: [] }) };
    }
    case 'drop-page':
      return withoutPage(scene, change.page);
    case 'move-page': {
      const state = pageStateOf(scene, change.page);
      const others = scene.pages.filter((one) => one !== state);
      const at = placeAfter(others, change.after);
      if (!state || at === null || scene.pages[at] === state) return scene;
      return { ...scene, pages: others.toSpliced(at, 0, state) };
    }
    case 'alter-page':
      if (!pageStateOf(scene, change.page.id)) return scene;
      return {
        ...scene,
        pages: scene.pages.map((state) => (state.page.id === change.page.id ? { ...state, page: change.page } : state)),
      };
  }
}

/** The scene after changes, one after the other. Ink that follows upon ink on one page is put there together, which is faster. */
export function applyChanges(scene: Scene, changes: readonly Change[]): Scene {
  let now = scene;
  for (let i = 0; i < changes.length;) {
    const run = inkRun(changes, i);
    if (run.length > 1) now = withPieces(now, run[0].page, (pieces) => placed(pieces, strokesOf(run)));
    else now = applyChange(now, changes[i]);
    i += Math.max(1, run.length);
  }
  return now;
}

type Ink = Extract<Change, { kind: 'ink' }>;

const strokesOf = (run: readonly Ink[]) => run.map(({ stroke }) => stroke);

function inkRun(changes: readonly Change[], from: number): Ink[] {
  const run: Ink[] = [];
  for (let i = from; i < changes.length; i++) {
    const change = changes[i];
    if (change.kind !== 'ink' || isPassing(change) || (run.length > 0 && run[0].page !== change.page)) break;
    run.push(change);
  }
  return run;
}

/** The place behind a page, or the first one after `null`; `null` where that page is not there. */
function placeAfter(pages: readonly PageState[], after: PageId | null): number | null {
  if (after === null) return 0;
  const at = pages.findIndex((state) => state.page.id === after);
  return at < 0 ? null : at + 1;
}

/** When the page shown goes, the next one is shown, or else the one before. */
function withoutPage(scene: Scene, page: PageId): Scene {
  const at = scene.pages.findIndex((state) => state.page.id === page);
  if (at < 0 || scene.pages.length === 1) return scene;
  const pages = scene.pages.toSpliced(at, 1);
  const neighbour = pages[Math.min(at, pages.length - 1)];
  return scene.shown === page ? { pages, shown: neighbour.page.id, look: null } : { ...scene, pages };
}

function withPieces(scene: Scene, page: PageId, alter: (pieces: readonly Piece[]) => readonly Piece[]): Scene {
  const at = scene.pages.findIndex((state) => state.page.id === page);
  if (at < 0) return scene;
  const state = scene.pages[at];
  const pieces = alter(state.pieces);
  return pieces === state.pieces ? scene : { ...scene, pages: scene.pages.with(at, { ...state, pieces }) };
}

/** What of a change's pieces could not be read stays with the page. */
function withUnread(scene: Scene, { page, unread }: Extract<Change, { kind: 'place' | 'alter' }>): Scene {
  if (!unread) return scene;
  const isSame = (one: Unread, other: Unread) =>
    one.code === other.code &&
    one.bytes.length === other.bytes.length &&
    one.bytes.every((byte, i) => byte === other.bytes[i]);
  const all = (state: PageState) => {
    const known = state.unread ?? [];
    // A change that comes again brings nothing new.
    const fresh = unread.filter((one) => !known.some((other) => isSame(one, other)));
    return fresh.length === 0 ? state : { ...state, unread: [...known, ...fresh] };
  };
  return { ...scene, pages: scene.pages.map((state) => (state.page.id === page ? all(state) : state)) };
}

function placed(pieces: readonly Piece[], added: readonly Piece[]): readonly Piece[] {
  // New ink comes one by one.
  if (added.length === 1) {
    const [piece] = added;
    return pieces.some(({ id }) => id === piece.id) ? pieces : pieces.toSpliced(placeFor(pieces, piece), 0, piece);
  }
  const present = new Set(pieces.map((piece) => piece.id));
  const fresh = added.filter(({ id }) => !present.has(id) && present.add(id));
  return fresh.length === 0 ? pieces : stacked(pieces, fresh);
}

function stacked(pieces: readonly Piece[], fresh: readonly Piece[]): readonly Piece[] {
  const result = [...pieces];
  for (const piece of fresh) {
    const at = placeFor(result, piece);
    if (at === result.length) result.push(piece);
    else result.splice(at, 0, piece);
  }
  return result;
}

/** The scene with pieces more on a page, of which it is known that none is there yet. */
export const withFresh = (scene: Scene, page: PageId, fresh: readonly Piece[]): Scene =>
  withPieces(scene, page, (pieces) => stacked(pieces, fresh));

/** New ink nearly always goes on top, so the search starts there. */
function placeFor(pieces: readonly Piece[], piece: Piece): number {
  let at = pieces.length;
  while (at > 0 && pieces[at - 1].z > piece.z) at--;
  return at;
}

function lifted(pieces: readonly Piece[], ids: readonly PieceId[]): readonly Piece[] {
  const gone = new Set(ids);
  const kept = pieces.filter((piece) => !gone.has(piece.id));
  return kept.length === pieces.length ? pieces : kept;
}

/** Pieces keep their place in the order unless their `z` has changed. */
function altered(pieces: readonly Piece[], news: readonly Piece[]): readonly Piece[] {
  const byId = new Map(news.map((piece) => [piece.id, piece]));
  if (!pieces.some((piece) => byId.has(piece.id))) return pieces;
  const result = pieces.map((piece) => byId.get(piece.id) ?? piece);
  return result.sort((a, b) => a.z - b.z);
}

function arranged(pieces: readonly Piece[], arrangements: readonly ArrangedPiece[]): readonly Piece[] {
  const byId = new Map(arrangements.map((one) => [one.id, one]));
  const news = pieces.flatMap((piece) => {
    const to = byId.get(piece.id);
    return to ? [arrangedPiece(piece, to)] : [];
  });
  return news.length === 0 ? pieces : altered(pieces, news);
}

/** What does not fit a piece of its kind, such as a frame for a stroke, is of no account. */
function arrangedPiece(piece: Piece, { z = piece.z, matrix, frame }: ArrangedPiece): Piece {
  if (piece.kind === 'stroke') return { ...piece, z, matrix: matrix === undefined ? piece.matrix : matrix };
  return { ...piece, z, frame: frame ?? piece.frame };
}

/** The changes that take this one back; none where there is nothing to take back. */
export function inverseOf(scene: Scene, change: Change): Change[] {
  switch (change.kind) {
    case 'ink':
      return isPassing(change) ? [] : withoutFresh(scene, change.page, [change.stroke]);
    case 'place':
      return withoutFresh(scene, change.page, change.pieces);
    case 'lift': {
      const pieces = present(scene, change.page, change.pieceIds);
      return pieces.length === 0 ? [] : [{ kind: 'place', page: change.page, pieces }];
    }
    case 'alter': {
      const ids = change.pieces.map((piece) => piece.id);
      const pieces = present(scene, change.page, ids);
      return pieces.length === 0 ? [] : [{ kind: 'alter', page: change.page, pieces }];
    }
    case 'transform':
    case 'arrange': {
      const ids = change.kind === 'transform' ? change.pieceIds : change.pieces.map(({ id }) => id);
      const pieces = present(scene, change.page, ids).map(arrangementOf);
      return pieces.length === 0 ? [] : [{ kind: 'arrange', page: change.page, pieces }];
    }
    case 'turn':
    case 'look':
    case 'point':
    case 'unread':
      return [];
    case 'add-page':
      return pageStateOf(scene, change.page.id) ? [] : [{ kind: 'drop-page', page: change.page.id }];
    case 'drop-page': {
      const state = pageStateOf(scene, change.page);
      if (!state || scene.pages.length === 1) return [];
      const { page, ...contents } = state;
      const added: Change = { kind: 'add-page', page, after: pageBefore(scene, page.id) };
      const isEmpty = contents.pieces.length === 0 && !contents.unread;
      return isEmpty ? [added] : [added, { kind: 'place', page: page.id, ...contents }];
    }
    case 'move-page':
      return pageStateOf(scene, change.page)
        ? [{ kind: 'move-page', page: change.page, after: pageBefore(scene, change.page) }]
        : [];
    case 'alter-page': {
      const state = pageStateOf(scene, change.page.id);
      return state ? [{ kind: 'alter-page', page: state.page }] : [];
    }
  }
}

function present(scene: Scene, page: PageId, ids: readonly PieceId[]): readonly Piece[] {
  const named = new Set(ids);
  return pageStateOf(scene, page)?.pieces.filter((piece) => named.has(piece.id)) ?? [];
}

/** What takes pieces off again that are put on a page: those that lie there already were not put there by this. */
function withoutFresh(scene: Scene, page: PageId, placed: readonly Piece[]): Change[] {
  const state = pageStateOf(scene, page);
  const there = new Set(state?.pieces.map(({ id }) => id));
  const fresh = new Set(placed.map(({ id }) => id).filter((id) => state && !there.has(id)));
  return fresh.size === 0 ? [] : [{ kind: 'lift', page, pieceIds: [...fresh] }];
}

function pageBefore(scene: Scene, page: PageId): PageId | null {
  const at = scene.pages.findIndex((state) => state.page.id === page);
  return at > 0 ? scene.pages[at - 1].page.id : null;
}
