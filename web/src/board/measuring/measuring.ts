import { NOTHING_DRAWN } from '@kite-trail/core/drawing/drawing';
import type { Instrument } from '@kite-trail/core/lesson/content';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { pageRect, type PageScale } from '@kite-trail/core/lesson/page';
import { NEW, type InstrumentPiece, type Piece } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { EdgeWalk } from '@kite-trail/core/measuring/edge-walk';
import { laidDown } from '@kite-trail/core/measuring/handling';
import { nanoid } from 'nanoid';
import { computed, shallowRef, watch } from 'vue';
import type { Lead } from '../../capture/pen-input';
import { useKeptSetting } from '../../device/kept-setting';
import { useDesk } from '../../lesson/desk';
import { usePages } from '../../pages/pages';
import { useView } from '../view';
import { ofLesson } from '../../lesson/lesson-scope';

/** What a centimetre stands for on a page without a scale. */
const PLAIN_SCALE: PageScale = { perCm: 1, unit: 'cm' };

const NONE: readonly InstrumentPiece[] = [];
const isInstrument = (piece: Piece): piece is InstrumentPiece => piece.kind === 'instrument';

/**
 * Rulers and the like. Those that viewers see are pieces of their page; those kept out of the recording lie in this window
 * alone. Laying and moving them is no step to undo: who undoes means what was written.
 */
export const useMeasuring = ofLesson(() => {
  const desk = useDesk();
  const pages = usePages();
  const view = useView();
  const shown = useKeptSetting<'yes' | 'no'>('kite-trail-measuring-shown', 'yes');
  const keptOut = shallowRef<ReadonlyMap<PageId, readonly InstrumentPiece[]>>(new Map());
  /** What is being drawn along an edge measures so much. */
  const reading = shallowRef<{ id: PieceId; text: string } | null>(null);

  const page = () => shownPage(desk.scene!).page;
  const scale = computed(() => (desk.scene ? page().scale : null) ?? PLAIN_SCALE);
  const hidden = computed<readonly InstrumentPiece[]>(() => {
    const pieces = keptOut.value.size > 0 && desk.scene && keptOut.value.get(desk.scene.shown);
    return pieces ? pieces.map(toScale) : NONE;
  });
  const seen = computed(() => (desk.scene ? shownPage(desk.scene).pieces.filter(isInstrument) : []));
  /** All that lie on the page shown, as they read in its scale. */
  const lying = computed(() => [...seen.value.map(toScale), ...hidden.value]);
  const areForViewers = computed({ get: () => shown.value === 'yes', set: showAll });

  const isSeen = (id: PieceId) => seen.value.some((piece) => piece.id === id);

  function keepOut(pieces: readonly InstrumentPiece[]): void {
    keptOut.value = new Map(keptOut.value).set(desk.scene!.shown, pieces);
  }

  function add(piece: InstrumentPiece): void {
    if (areForViewers.value) desk.changeAside({ kind: 'place', page: desk.scene!.shown, pieces: [piece] });
    else keepOut([...hidden.value, piece]);
  }

  /** Lays one on the middle of what is seen of the page, or puts away the one of its kind that lies there. */
  function toggle(instrument: Instrument): void {
    const there = lying.value.find(({ content }) => content.instrument === instrument);
    if (there) return putAway(there.id);
    const others = lying.value.map((piece) => piece.frame);
    const frame = laidDown(instrument, view.look ?? pageRect(page()), others);
    const content = { instrument, scale: scale.value };
    const id = nanoid(12) as PieceId;
    add({ ...NEW, id, z: desk.nextZ(), kind: 'instrument', frame, content, drawing: NOTHING_DRAWN });
  }

  /** Gives one that lies on the page another place, turn or size. */
  function put(piece: InstrumentPiece): void {
    reading.value = null;
    if (isSeen(piece.id)) desk.changeAside({ kind: 'alter', page: desk.scene!.shown, pieces: [piece] });
    else keepOut(hidden.value.map((one) => (one.id === piece.id ? piece : one)));
  }

  function putAway(id: PieceId): void {
    if (isSeen(id)) desk.changeAside({ kind: 'lift', page: desk.scene!.shown, pieceIds: [id] });
    else keepOut(hidden.value.filter((one) => one.id !== id));
  }

  /** From now on, viewers see what measures, or only what is written with it. */
  function showAll(show: boolean): void {
    const moving = show ? hidden.value : seen.value;
    for (const { id } of moving) putAway(id);
    shown.value = show ? 'yes' : 'no';
    moving.forEach(add);
  }

  /** Says what a centimetre of the page shown stands for; `null` for a centimetre. */
  function setScale(to: PageScale | null): void {
    pages.alter({ ...page(), scale: to });
  }

  /** The same piece, if it reads in the page's scale already. */
  function toScale(piece: InstrumentPiece): InstrumentPiece {
    const { perCm, unit } = piece.content.scale;
    if (perCm === scale.value.perCm && unit === scale.value.unit) return piece;
    return { ...piece, content: { ...piece.content, scale: scale.value } };
  }

  // However the scale has changed, such as by undo, what lies on the page reads in it for viewers, too.
  watch(
    () => desk.history,
    () => {
      for (const piece of seen.value) {
        const scaled = toScale(piece);
        if (scaled !== piece) put(scaled);
      }
    },
  );

  /** What leads a pen that comes down near an edge, until it is lifted. */
  function leadFrom(at: { xPt: number; yPt: number }, reachPt: number): Lead | null {
    for (const piece of lying.value.toReversed()) {
      const walk = EdgeWalk.from(piece, at, reachPt);
      if (!walk) continue;
      return (pen) => {
        const place = walk.to(pen);
        reading.value = { id: piece.id, text: walk.reading };
        return place;
      };
    }
    return null;
  }

  return { scale, hidden, lying, areForViewers, reading, toggle, put, putAway, setScale, leadFrom };
});
