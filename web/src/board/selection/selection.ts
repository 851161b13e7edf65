import { aligned, distributed, restacked, snapped, type Alignment, type Guide } from '@kite-trail/core/lesson/arrange';
import { boundsOf, pieceBounds } from '@kite-trail/core/lesson/bounds';
import { cornersOf, frameMatrix, frameOf, type Frame } from '@kite-trail/core/lesson/frame';
import type { GroupId, PieceId } from '@kite-trail/core/lesson/ids';
import { STEPS_PER_PT } from '@kite-trail/core/ink/points';
import type { ArrangedPiece } from '@kite-trail/core/lesson/mark';
import { composed, IDENTITY, inverted, moveBy, scaleAbout, type Matrix } from '@kite-trail/core/lesson/matrix';
import { arrangementOf, movedPiece, movement } from '@kite-trail/core/lesson/moving';
import { pageRect } from '@kite-trail/core/lesson/page';
import { cropped, cutAlong, fitted } from '@kite-trail/core/lesson/picture';
import {
  storableOpacity,
  WHOLE,
  type Crop,
  type Link,
  type Picture,
  type Piece,
  type Stroke,
} from '@kite-trail/core/lesson/piece';
import { growRect, type RectPt } from '@kite-trail/core/lesson/rect';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { pieceAt, piecesInLoop, piecesWithin } from '@kite-trail/core/lesson/touch';
import { nanoid } from 'nanoid';
import { computed, ref, shallowRef } from 'vue';
import { useDesk } from '../../lesson/desk';
import { useView } from '../view';
import { ofLesson } from '../../lesson/lesson-scope';

const ASIDE_PT = 18;
/** So much of what is around it is seen with what is held. */
const AROUND_PT = 24;

/** What is dragged goes by steps of the grid on which everything lies. */
const onGrid = (pt: number): number => Math.round(pt * STEPS_PER_PT) / STEPS_PER_PT;

/** What the teacher holds, and what can be done with it. */
export const useSelection = ofLesson(() => {
  const desk = useDesk();
  const view = useView();
  const ids = shallowRef<ReadonlySet<PieceId>>(new Set());
  /** What the handles, or the next line drawn, are for. */
  const doing = ref<'moving' | 'cropping' | 'cutting'>('moving');
  /** What the crop handles leave. */
  const cropTo = ref<Crop | null>(null);
  /** Lines that what is being moved has come to lie on. */
  const guides = shallowRef<readonly Guide[]>([]);
  /** While a gesture goes on: how the pieces, and the box around them, were when it began. */
  let start: { pieces: readonly Piece[]; frame: Frame; others: readonly RectPt[]; moved: Matrix } | null = null;
  const gestureFrame = shallowRef<Frame | null>(null);

  /** Measuring tools have a hold of their own. */
  const onPage = () => shownPage(desk.scene!).pieces.filter(({ kind }) => kind !== 'instrument');
  const pieces = computed<readonly Piece[]>(() => {
    if (ids.value.size === 0 || !desk.scene) return [];
    return onPage().filter((piece) => ids.value.has(piece.id));
  });
  const only = computed(() => (pieces.value.length === 1 ? pieces.value[0] : null));
  const picture = computed(() => (only.value?.kind === 'picture' ? only.value : null));
  const isLocked = computed(() => pieces.value.some((piece) => piece.locked));
  const isGrouped = computed(
    () => pieces.value[0]?.group != null && new Set(pieces.value.map(({ group }) => group)).size === 1,
  );
  /** The box with the handles: a single piece's own, else the one around all. */
  const frame = computed<Frame | null>(() => {
    if (gestureFrame.value) return gestureFrame.value;
    if (pieces.value.length === 0) return null;
    return only.value && only.value.kind !== 'stroke' ? only.value.frame : frameOf(boundsOf(pieces.value));
  });

  function hold(held: Iterable<PieceId>): void {
    ids.value = new Set(held);
    doing.value = 'moving';
  }

  const letGo = () => hold([]);

  /** With a piece, all of its group is held. */
  function withGroups(some: readonly Piece[]): PieceId[] {
    const groups = new Set(some.map(({ group }) => group));
    groups.delete(null);
    const own = new Set(some.map(({ id }) => id));
    return onPage()
      .filter(({ id, group }) => own.has(id) || (group !== null && groups.has(group)))
      .map(({ id }) => id);
  }

  /**
   * Holds what lies at a place, unless it is held already.
   * @param more adds it to what is held, or lets it go again
   */
  function takeAt(at: { xPt: number; yPt: number }, reachPt: number, more = false): Piece | null {
    const found = pieceAt(onPage(), at, reachPt) ?? null;
    if (!found) {
      if (!more) letGo();
      return null;
    }
    const own = withGroups([found]);
    const isHeld = ids.value.has(found.id);
    if (more) hold(isHeld ? [...ids.value].filter((id) => !own.includes(id)) : [...ids.value, ...own]);
    else if (!isHeld) hold(own);
    return found;
  }

  /** What is locked is only held by touching it. */
  const holdAll = (some: readonly Piece[]) => hold(withGroups(some.filter((piece) => !piece.locked)));
  const holdWithin = (rect: RectPt) => holdAll(piecesWithin(onPage(), rect));
  const holdInLoop = (loop: readonly number[]) => holdAll(piecesInLoop(onPage(), loop));
  const holdEverything = () => holdAll(onPage());

  /** Takes the ink on a picture along with it. */
  function carryInk(): void {
    if (!only.value || only.value.kind === 'stroke') return;
    const corners = cornersOf(only.value.frame).flatMap(({ xPt, yPt }) => [xPt, yPt]);
    const ink = piecesInLoop(onPage(), corners).filter(({ kind }) => kind === 'stroke');
    hold(withGroups([only.value, ...ink]));
  }

  function alter(changed: readonly Piece[]): void {
    if (changed.length > 0) desk.change({ kind: 'alter', page: desk.scene!.shown, pieces: changed });
  }

  /** Gives each piece a new state; `null` leaves one as it is. */
  function each(change: (piece: Piece) => Piece | null): void {
    alter(pieces.value.map(change).filter((piece) => piece !== null));
  }

  /** From now on, what is done with the handles is one step. */
  function begin(): void {
    const others = onPage().filter((piece) => !ids.value.has(piece.id));
    start = {
      pieces: pieces.value,
      frame: frame.value!,
      others: [pageRect(shownPage(desk.scene!).page), ...others.map(pieceBounds)],
      moved: IDENTITY,
    };
    desk.beginGesture();
  }

  function end(): void {
    start = null;
    gestureFrame.value = null;
    guides.value = [];
    desk.endGesture();
  }

  /** Moves all of it from where it was when the gesture began. */
  function transform(by: Matrix): void {
    const page = desk.scene!.shown;
    if (pieces.value.length === 0) return;
    desk.change(start ? movement(page, start.pieces, by, start.moved) : movement(page, pieces.value, by));
    if (start) start.moved = by;
  }

  function arrange(arranged: readonly ArrangedPiece[]): void {
    if (arranged.length > 0) desk.change({ kind: 'arrange', page: desk.scene!.shown, pieces: arranged });
  }

  /** Moves it, into line with what is near. @param snapPt from how near */
  function drag(xPt: number, yPt: number, snapPt: number): void {
    if (!start) return;
    const was = boundsOf(start.pieces);
    const moving = { left: was.left + xPt, right: was.right + xPt, top: was.top + yPt, bottom: was.bottom + yPt };
    const found = snapped(moving, start.others, snapPt);
    guides.value = found.guides;
    const by = { xPt: onGrid(xPt + found.xPt), yPt: onGrid(yPt + found.yPt) };
    gestureFrame.value = { ...start.frame, xPt: start.frame.xPt + by.xPt, yPt: start.frame.yPt + by.yPt };
    transform(moveBy(by.xPt, by.yPt));
  }

  /** Gives its box another place, size or turn. */
  function reframe(to: Frame): void {
    const from = start?.frame ?? frame.value!;
    gestureFrame.value = start ? to : null;
    const sized = scaleAbout({ xPt: 0, yPt: 0 }, to.widthPt / from.widthPt, to.heightPt / from.heightPt);
    transform(composed(composed(frameMatrix(to), sized), inverted(frameMatrix(from))));
  }

  /** Moves, turns or scales it by a step, as keys do. */
  function step(by: Matrix): void {
    if (!isLocked.value) transform(by);
  }

  function mirror(): void {
    const { xPt, yPt } = frame.value!;
    transform(scaleAbout({ xPt, yPt }, -1, 1));
  }

  /** Hands out a copy of what is set to, and takes the copy instead. */
  function handOut(): void {
    const copies = pieces.value.filter(({ handsOut }) => handsOut);
    if (copies.length > 0) placeCopies(pieces.value, 0);
  }

  function duplicate(): void {
    placeCopies(pieces.value, ASIDE_PT);
  }

  /** Puts copies on the page shown, and takes them. */
  function placeCopies(originals: readonly Piece[], asidePt: number): void {
    if (originals.length === 0) return;
    let z = desk.nextZ();
    const groups = new Map<GroupId, GroupId>();
    const groupOf = (group: GroupId) => {
      if (!groups.has(group)) groups.set(group, nanoid(12) as GroupId);
      return groups.get(group)!;
    };
    const copies = originals.map((piece) => ({
      ...movedPiece(piece, moveBy(asidePt, asidePt)),
      id: nanoid(12) as PieceId,
      z: z++,
      handsOut: false,
      locked: false,
      group: piece.group && groupOf(piece.group),
    }));
    desk.change({ kind: 'place', page: desk.scene!.shown, pieces: copies });
    hold(copies.map(({ id }) => id));
  }

  function lift(): void {
    if (ids.value.size > 0) desk.change({ kind: 'lift', page: desk.scene!.shown, pieceIds: [...ids.value] });
    letGo();
  }

  /** Looks at what is held, as large as it can be. */
  function lookCloser(): void {
    if (pieces.value.length > 0) view.showPart(growRect(boundsOf(pieces.value), AROUND_PT));
  }

  function group(): void {
    const id = nanoid(12) as GroupId;
    each((piece) => ({ ...piece, group: id }));
  }
  const ungroup = () => each((piece) => ({ ...piece, group: null }));
  const lock = (locked: boolean) => each((piece) => ({ ...piece, locked }));
  const fade = (opacity: number) => each((piece) => ({ ...piece, opacity: storableOpacity(opacity) }));
  const link = (to: Link | null) => each((piece) => ({ ...piece, link: to }));
  const setHandsOut = (handsOut: boolean) => each((piece) => ({ ...piece, handsOut }));
  const align = (to: Alignment) => arrange(aligned(pieces.value, to).map(arrangementOf));
  const distribute = (direction: 'across' | 'down') => arrange(distributed(pieces.value, direction).map(arrangementOf));
  const restack = (to: 'front' | 'back') => arrange(restacked(shownPage(desk.scene!).pieces, pieces.value, to));

  function recolor(color: string): void {
    each((piece) => {
      switch (piece.kind) {
        case 'stroke':
          return { ...piece, pen: { ...piece.pen, color } };
        case 'text':
          return { ...piece, content: { ...piece.content, style: { ...piece.content.style, color } } };
        case 'shape':
          return { ...piece, content: { ...piece.content, color } };
        case 'formula':
          return { ...piece, content: { ...piece.content, color } };
        case 'plot':
          return { ...piece, content: { ...piece.content, color } };
        case 'picture':
        case 'instrument':
          return null;
      }
    });
  }

  function setWidth(widthPt: number): void {
    each((piece) => {
      if (piece.kind === 'stroke') return { ...piece, pen: { ...piece.pen, widthPt } } satisfies Stroke;
      return piece.kind === 'shape' ? { ...piece, content: { ...piece.content, widthPt } } : null;
    });
  }

  const alterPicture = (change: (picture: Picture) => Picture) => picture.value && alter([change(picture.value)]);
  const fit = (by: 'width' | 'height' | 'page') =>
    alterPicture((own) => fitted(own, pageRect(shownPage(desk.scene!).page), by));

  function startCrop(): void {
    cropTo.value = picture.value?.crop ?? null;
    doing.value = 'cropping';
  }

  function crop(): void {
    alterPicture((own) => (cropTo.value ? cropped(own, cropTo.value) : own));
    doing.value = 'moving';
  }

  function cutOut(line: readonly { xPt: number; yPt: number }[]): void {
    alterPicture((own) => cutAlong(own, line));
    doing.value = 'moving';
  }

  /** Shows all of the picture again. */
  const uncut = () => alterPicture((own) => cropped({ ...own, cutOut: new Float32Array() }, WHOLE));

  return {
    ids,
    pieces,
    only,
    picture,
    frame,
    isLocked,
    isGrouped,
    doing,
    cropTo,
    guides,
    hold,
    letGo,
    takeAt,
    holdWithin,
    holdInLoop,
    holdEverything,
    carryInk,
    begin,
    end,
    drag,
    reframe,
    step,
    mirror,
    handOut,
    duplicate,
    placeCopies,
    lift,
    lookCloser,
    group,
    ungroup,
    lock,
    fade,
    link,
    setHandsOut,
    align,
    distribute,
    restack,
    recolor,
    setWidth,
    alter,
    fit,
    startCrop,
    crop,
    cutOut,
    uncut,
  };
});
