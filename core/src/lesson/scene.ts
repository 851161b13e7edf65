import type { PageId, PieceId } from './ids';
import type { Change } from './mark';
import type { Page } from './page';
import type { Piece } from './piece';

/** A page as it is at one moment, its pieces from the lowest to the topmost. */
export interface PageState {
  readonly page: Page;
  readonly pieces: readonly Piece[];
}

/** All that can be seen of a lesson at one moment. Scenes are values: a change makes a new one that shares the rest. */
export interface Scene {
  readonly pages: readonly PageState[];
  readonly shown: PageId;
}

export function sceneOf(pages: readonly PageState[]): Scene {
  if (pages.length === 0) throw new Error('A lesson needs at least one page.');
  return { pages, shown: pages[0].page.id };
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
 * back the same scene.
 */
export function applyChange(scene: Scene, change: Change): Scene {
  switch (change.kind) {
    case 'ink':
      return withPieces(scene, change.page, (pieces) => placed(pieces, [change.stroke]));
    case 'place':
      return withPieces(scene, change.page, (pieces) => placed(pieces, change.pieces));
    case 'lift':
      return withPieces(scene, change.page, (pieces) => lifted(pieces, change.pieceIds));
    case 'turn':
      return change.page !== scene.shown && pageStateOf(scene, change.page) ? { ...scene, shown: change.page } : scene;
    case 'add-page': {
      if (pageStateOf(scene, change.page.id)) return scene;
      const at = change.after === null ? 0 : scene.pages.findIndex((state) => state.page.id === change.after) + 1;
      if (change.after !== null && at === 0) return scene;
      return { ...scene, pages: scene.pages.toSpliced(at, 0, { page: change.page, pieces: [] }) };
    }
  }
}

function withPieces(scene: Scene, page: PageId, alter: (pieces: readonly Piece[]) => readonly Piece[]): Scene {
  const at = scene.pages.findIndex((state) => state.page.id === page);
  if (at < 0) return scene;
  const state = scene.pages[at];
  const pieces = alter(state.pieces);
  return pieces === state.pieces ? scene : { ...scene, pages: scene.pages.with(at, { page: state.page, pieces }) };
}

function placed(pieces: readonly Piece[], added: readonly Piece[]): readonly Piece[] {
  const present = new Set(pieces.map((piece) => piece.id));
  const result = [...pieces];
  for (const piece of added) {
    if (present.has(piece.id)) continue;
    present.add(piece.id);
    result.splice(placeFor(result, piece), 0, piece);
  }
  if (result.length === pieces.length) return pieces;
  return result;
}

/** New ink nearly always goes on top, so the search starts there. */
function placeFor(pieces: readonly Piece[], piece: Piece): number {
  let at = pieces.length;
  while (at > 0 && pieces[at - 1].z > piece.z) at--;
  return at;
}

function lifted(pieces: readonly Piece[], ids: readonly PieceId[]): readonly Piece[] {
  const kept = pieces.filter((piece) => !ids.includes(piece.id));
  return kept.length === pieces.length ? pieces : kept;
}

/** The change that takes this one back, or `null` where there is nothing to take back. */
export function inverseOf(scene: Scene, change: Change): Change | null {
  switch (change.kind) {
    case 'ink':
      return { kind: 'lift', page: change.page, pieceIds: [change.stroke.id] };
    case 'place':
      return { kind: 'lift', page: change.page, pieceIds: change.pieces.map((piece) => piece.id) };
    case 'lift': {
      const pieces =
        pageStateOf(scene, change.page)?.pieces.filter((piece) => change.pieceIds.includes(piece.id)) ?? [];
      return pieces.length === 0 ? null : { kind: 'place', page: change.page, pieces };
    }
    case 'turn':
    case 'add-page':
      return null;
  }
}
