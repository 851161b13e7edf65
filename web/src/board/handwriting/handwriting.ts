import type { OwnLetter } from '@kite-trail/core/contract/pens';
import { exactOf, straightened, type ExactFigure } from '@kite-trail/core/ink/straighten';
import { boundsOf } from '@kite-trail/core/lesson/bounds';
import type { PieceId } from '@kite-trail/core/lesson/ids';
import type { Stroke } from '@kite-trail/core/lesson/piece';
import { placesOf } from '@kite-trail/core/lesson/touch';
import { heightOf, type Polyline } from '@kite-trail/core/reading/point-cloud';
import { textOf, type Reading } from '@kite-trail/core/reading/reading';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { readInWorker, type ReadingWork } from '../../reading/reader';
import { useRecordingNow } from '../../lesson/recording-now';
import { useComposing } from '../composing/composing';
import { useDesk } from '../../lesson/desk';
import { usePens } from '../pens/pens';
import { useSelection } from '../selection/selection';
import { ofLesson } from '../../lesson/lesson-scope';

/** A stroke that can become exact. */
export interface Figure {
  stroke: Stroke;
  figure: ExactFigure;
  exact: Stroke;
}

/** A capital's height, as a share of the size of its letters. */
const CAPITAL_SHARE = 0.7;
/** Of tall letters, nine in ten are no taller. */
const TALL_RANK = 0.9;
const LEAST_SIZE_PT = 8;
/** Letters are remembered in a box of this side, with no more places than this in a stroke. */
const LETTER_BOX = 100;
const MOST_PLACES = 48;

/** Handwriting turned into text or exact figures, once the teacher has seen, and mended, what was read. */
export const useReading = ofLesson(() => {
  const desk = useDesk();
  const selection = useSelection();
  const composing = useComposing();
  const recording = useRecordingNow();
  const pens = usePens();

  /** The strokes being read; `null` while nothing is. */
  const strokes = shallowRef<readonly Stroke[] | null>(null);
  const lines = shallowRef<readonly Polyline[]>([]);
  const lettersRead = shallowRef<Reading | null>(null);
  const figures = shallowRef<readonly Figure[]>([]);
  /** Strokes that are to stay as they were drawn. */
  const excluded = shallowRef<ReadonlySet<PieceId>>(new Set());
  const becomes = ref<'text' | 'figures'>('text');
  const text = ref('');
  const learns = ref(true);
  const problem = ref<string | null>(null);
  /** Letters the teacher has put right, by their place in the reading. */
  const corrected = shallowRef<ReadonlyMap<string, string>>(new Map());
  let work: ReadingWork | null = null;
  let isReplacing = false;

  const canRead = computed(() => selection.pieces.some(({ kind }) => kind === 'stroke') && !selection.isLocked);

  /** Reads what is held. */
  async function open(): Promise<void> {
    recording.pause();
    close();
    const held = selection.pieces.filter((piece): piece is Stroke => piece.kind === 'stroke');
    strokes.value = held;
    lines.value = held.map((stroke) => placesOf(stroke).flatMap(({ xPt, yPt }) => [xPt, yPt]));
    figures.value = held.flatMap((stroke) => figureOf(stroke) ?? []);
    // Letters are made of lines, too.
    const areFigures = figures.value.length === held.length && figures.value.some(({ figure }) => figure !== 'line');
    becomes.value = areFigures ? 'figures' : 'text';
    const mine = (work = readInWorker([...lines.value], pens.letters));
    try {
      const read = await mine.done;
      if (work !== mine) return;
      lettersRead.value = read;
      text.value = textOf(read);
    } catch (error) {
      if (work === mine) problem.value = (error as Error).message;
    }
  }

  function close(): void {
    work?.stop();
    work = null;
    strokes.value = lettersRead.value = problem.value = null;
    figures.value = lines.value = [];
    excluded.value = new Set();
    corrected.value = new Map();
    text.value = '';
  }
  onScopeDispose(close);

  /** Says what a letter is. */
  function correct(line: number, at: number, letter: string): void {
    const mended = lettersRead.value!.map((letters) => [...letters]);
    const one = mended[line][at];
    mended[line][at] = { ...one, choices: [letter, ...one.choices.filter((choice) => choice !== letter)] };
    lettersRead.value = mended;
    corrected.value = new Map(corrected.value).set(`${line} ${at}`, letter);
    text.value = textOf(mended);
  }

  function leave(id: PieceId, out: boolean): void {
    const ids = new Set(excluded.value);
    if (out) ids.add(id);
    else ids.delete(id);
    excluded.value = ids;
  }

  /** Puts what was read in the place of the ink, as one step. */
  async function replace(): Promise<void> {
    if (becomes.value === 'figures') {
      selection.alter(figures.value.filter(({ stroke }) => !excluded.value.has(stroke.id)).map(({ exact }) => exact));
      return close();
    }
    if (isReplacing || text.value.trim() === '') return;
    isReplacing = true;
    try {
      await replaceByText(strokes.value!, text.value.trim());
      if (learns.value) pens.learn(learnt());
      close();
    } catch (error) {
      problem.value = (error as Error).message;
    } finally {
      isReplacing = false;
    }
  }

  async function replaceByText(ink: readonly Stroke[], typed: string): Promise<void> {
    const { left, top } = boundsOf(ink);
    const heights = lines.value.map(heightOf).sort((a, b) => a - b);
    const tallPt = heights[Math.floor((heights.length - 1) * TALL_RANK)];
    const sizePt = Math.max(LEAST_SIZE_PT, Math.round(tallPt / CAPITAL_SHARE));
    const style = { ...composing.textStyle, sizePt, color: ink[0].pen.color, align: 'left' as const };
    const made = await composing.textPiece(typed, style, { xPt: left, yPt: top });
    desk.changeTogether([
      { kind: 'lift', page: desk.scene!.shown, pieceIds: ink.map(({ id }) => id) },
      { kind: 'place', page: desk.scene!.shown, pieces: [made] },
    ]);
    selection.hold([made.id]);
  }

  /** The letters that were put right, as they were written. */
  function learnt(): OwnLetter[] {
    return [...corrected.value].map(([place, letter]) => {
      const [line, at] = place.split(' ').map(Number);
      return { letter, strokes: boxed(lettersRead.value![line][at].strokes.map((n) => lines.value[n])) };
    });
  }

  return {
    strokes,
    lines,
    lettersRead,
    figures,
    excluded,
    becomes,
    text,
    learns,
    problem,
    corrected,
    canRead,
    open,
    close,
    correct,
    leave,
    replace,
  };
});

function figureOf(stroke: Stroke): Figure | null {
  if (stroke.matrix) return null;
  const found = exactOf(stroke.points);
  return found && { stroke, figure: found.figure, exact: { ...stroke, points: straightened(stroke.points, found) } };
}

/** Strokes in a box, small enough to be kept. */
function boxed(strokes: readonly Polyline[]): number[][] {
  const all = strokes.flat();
  const [xs, ys] = [all.filter((_, i) => i % 2 === 0), all.filter((_, i) => i % 2 === 1)];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const scale = LETTER_BOX / Math.max(1, Math.max(...xs) - left, Math.max(...ys) - top);
  return strokes.map((stroke) => {
    const step = Math.max(1, Math.ceil(stroke.length / 2 / MOST_PLACES));
    return stroke
      .filter((_, i) => Math.floor(i / 2) % step === 0 || i >= stroke.length - 2)
      .map((value, i) => Math.round((value - (i % 2 === 0 ? left : top)) * scale * 10) / 10);
  });
}
