import { pieceProblem } from '@kite-trail/core/contract/change';
import type { Drawing } from '@kite-trail/core/drawing/drawing';
import type { Contents } from '@kite-trail/core/lesson/content';
import { storableFrame } from '@kite-trail/core/lesson/frame';
import type { PieceId } from '@kite-trail/core/lesson/ids';
import { pageRect } from '@kite-trail/core/lesson/page';
import { NEW, type ComposedPiece, type FormulaPiece, type Piece, type PlotPiece } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { nanoid } from 'nanoid';
import { ref, shallowRef } from 'vue';
import { useDesk } from '../../lesson/desk';
import { ofLesson } from '../../lesson/lesson-scope';
import { useRecordingNow } from '../../lesson/recording-now';
import { typesetter } from '../../typeset/typesetter';
import { usePens } from '../pens/pens';
import { useSelection } from '../selection/selection';

type Open = { kind: 'formula'; piece: FormulaPiece | null } | { kind: 'plot'; piece: PlotPiece | null };

/** Formulas and plots: made, and changed, in a dialog. */
export const useComposingDialog = ofLesson(() => {
  const desk = useDesk();
  const pens = usePens();
  const selection = useSelection();
  /** The one whose dialog is open; without a piece, it is a new one. */
  const open = shallowRef<Open | null>(null);
  /** Why what the dialog has made cannot be put on the page. */
  const problem = ref<string | null>(null);
  useRecordingNow().pauseWhile(() => open.value !== null);

  function begin(kind: Open['kind'], piece: ComposedPiece | null = null): void {
    open.value = { kind, piece } as Open;
  }

  const setFormula = (content: Contents['formula']) => typesetter.formula(content);
  const drawPlot = (content: Contents['plot']) => typesetter.plot(content);

  /** Puts what the dialog has made on the page: in the place of the piece it was opened for, or in the page's middle. */
  function finish<Kind extends 'formula' | 'plot'>(kind: Kind, content: Contents[Kind], drawing: Drawing): void {
    const before = open.value?.piece ?? null;
    // What cannot be kept stays in the dialog, where it can be made shorter.
    const piece = before ? changed(before, content, drawing) : made(kind, content, drawing);
    problem.value = pieceProblem(piece);
    if (problem.value) return;
    open.value = null;
    if (before) return selection.alter([piece]);
    desk.change({ kind: 'place', page: desk.scene!.shown, pieces: [piece] });
    pens.held = 'hold';
    selection.hold([piece.id]);
  }

  /** A piece with other content: it keeps its place, and its scale. */
  function changed(before: FormulaPiece | PlotPiece, content: Contents['formula' | 'plot'], drawing: Drawing): Piece {
    const scale = before.frame.heightPt / before.drawing.heightPt;
    const size = { widthPt: drawing.widthPt * scale, heightPt: drawing.heightPt * scale };
    return { ...before, content, drawing, frame: storableFrame({ ...before.frame, ...size }) } as Piece;
  }

  /** A new piece in the page's middle. */
  function made(kind: 'formula' | 'plot', content: Contents['formula' | 'plot'], drawing: Drawing): Piece {
    const rect = pageRect(shownPage(desk.scene!).page);
    const middle = { xPt: (rect.left + rect.right) / 2, yPt: (rect.top + rect.bottom) / 2 };
    const size = { widthPt: drawing.widthPt, heightPt: drawing.heightPt };
    const frame = storableFrame({ ...middle, ...size, turnRad: 0, mirrored: false });
    return { ...NEW, id: nanoid(12) as PieceId, z: desk.nextZ(), kind, content, drawing, frame } as
      FormulaPiece | PlotPiece;
  }

  return { open, problem, begin, setFormula, drawPlot, finish };
});
