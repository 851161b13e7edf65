import { NOTHING_DRAWN, type Drawing } from '@kite-trail/core/drawing/drawing';
import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import {
  dividedText,
  MOST_LABEL_LETTERS,
  MOST_LETTERS,
  type Contents,
  type Figure,
  type TextStyle,
} from '@kite-trail/core/lesson/content';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { NEW, type Piece, type ShapePiece, type TextPiece } from '@kite-trail/core/lesson/piece';
import { pageStateOf, shownPage } from '@kite-trail/core/lesson/scene';
import { nanoid } from 'nanoid';
import { computed, ref, shallowRef, triggerRef } from 'vue';
import { useKeptSetting } from '../../device/kept-setting';
import { typesetter } from '../../typeset/typesetter';
import { cornerOf, frameBetween, frameFrom, grownFrame, labelCornerOf, retyped, type PlacePt } from './composed-frames';
import { useComposingDialog } from './composing-dialog';
import { useRecordingNow } from '../../lesson/recording-now';
import { useDesk } from '../../lesson/desk';
import { usePens } from '../pens/pens';
import { useSelection } from '../selection/selection';
import { useView } from '../view';
import { useNotices } from '../../lesson/notices';
import { ofLesson } from '../../lesson/lesson-scope';

/** A shape that is only touched, not drawn, has this size. */
const FIRST_SHAPE_PT = { widthPt: 140, heightPt: 90 };
const SMALLEST_DRAWN_PT = 8;

/** Text that is being typed: a text piece's, or a shape's. */
export interface Typing {
  page: PageId;
  /** `null` until the first letter of a new text. */
  id: PieceId | null;
  text: string;
  style: TextStyle;
  /** Where its lines are broken, if not by the teacher alone. */
  wrapPt: number | null;
  /** Where the text's top left corner lies, turned as it is. */
  at: PlacePt;
  turnRad: number;
  /** Settles when what was typed before is whole on the page: this typing is a step of its own. */
  begun: Promise<void>;
  /** Settles when all letters typed so far are on the page. */
  settling: Promise<void>;
  /** Only the newest setting of what is typed counts. */
  settings: number;
  /** What no longer fits in this text: it goes into further ones when the typing ends. */
  rest: readonly string[];
}

type TextSet = Pick<Typing, 'text' | 'style' | 'wrapPt' | 'at' | 'turnRad'>;

/** Text, shapes, formulas and plots: made, typed, changed. */
export const useComposing = ofLesson(() => {
  const desk = useDesk();
  const pens = usePens();
  const view = useView();
  const selection = useSelection();
  const recording = useRecordingNow();
  const dialog = useComposingDialog();

  const figure = ref<Figure>('rectangle');
  const nextShape = shallowRef<Omit<Contents['shape'], 'figure' | 'label'>>({
    sides: 5,
    color: '#1f2a44',
    widthPt: 2.4,
    dash: 'solid',
    fill: null,
    shadow: false,
  });
  const textStyle = shallowRef<TextStyle>({ font: 'clear', sizePt: 20, bold: false, color: '#1f2a44', align: 'left' });
  /** Whether typing pauses a recording, or is recorded letter by letter. */
  const whileTyping = useKeptSetting<'pause' | 'record'>('kite-trail-typing', 'pause');
  const typing = shallowRef<Typing | null>(null);
  const problem = useNotices().place('problem');
  /** Only the newest width of a text counts. */
  /** Which width was asked for last, and which was set last: each is set, unless a newer one has been. */
  let askedWrap = 0;
  let setWrap = 0;

  const page = () => shownPage(desk.scene!).page;
  const pieceOn = (on: PageId, id: PieceId) => pageStateOf(desk.scene!, on)?.pieces.find((piece) => piece.id === id);
  const place = (piece: Piece) => desk.change({ kind: 'place', page: page().id, pieces: [piece] });
  const base = () => ({ ...NEW, id: nanoid(12) as PieceId, z: desk.nextZ() });

  function useFigure(chosen: Figure): void {
    figure.value = chosen;
    pens.held = 'shape';
  }

  /** The shape that a drag from one corner to the other draws. */
  function shapeBetween(from: PlacePt, to: PlacePt): ShapePiece {
    const isDrawn = Math.hypot(to.xPt - from.xPt, to.yPt - from.yPt) >= SMALLEST_DRAWN_PT;
    const end = isDrawn ? to : { xPt: from.xPt + FIRST_SHAPE_PT.widthPt, yPt: from.yPt + FIRST_SHAPE_PT.heightPt };
    const content = { ...nextShape.value, figure: figure.value, label: null };
    return { ...base(), kind: 'shape', frame: frameBetween(figure.value, from, end), content, drawing: NOTHING_DRAWN };
  }

  function placeShape(from: PlacePt, to: PlacePt): void {
    const piece = shapeBetween(from, to);
    place(piece);
    pens.held = 'hold';
    selection.hold([piece.id]);
  }

  /** Puts what the hand holds, text or a shape, in the middle of what is seen: for who works with keys. */
  function putInMiddle(): void {
    const { xPt, yPt } = view.middle;
    if (pens.held === 'text') return typeAt({ xPt, yPt });
    const corner = { xPt: xPt - FIRST_SHAPE_PT.widthPt / 2, yPt: yPt - FIRST_SHAPE_PT.heightPt / 2 };
    placeShape(corner, corner);
  }

  /** Begins a text at a place, or goes on with the one that is there. */
  function typeAt(at: PlacePt): void {
    beginTyping({ id: null, text: '', style: { ...textStyle.value }, wrapPt: null, at, turnRad: 0 });
  }

  /** Opens a piece to be changed: text and shapes on the page, formulas and plots in their dialogs. */
  function open(piece: Piece): void {
    if (piece.locked) return;
    switch (piece.kind) {
      case 'text':
        return beginTyping({ ...piece.content, id: piece.id, at: cornerOf(piece), turnRad: piece.frame.turnRad });
      case 'shape': {
        const label = piece.content.label ?? { text: '', style: { ...textStyle.value, align: 'center' as const } };
        return beginTyping({
          ...label,
          id: piece.id,
          wrapPt: null,
          at: labelCornerOf(piece),
          turnRad: piece.frame.turnRad,
        });
      }
      case 'formula':
      case 'plot':
        return dialog.begin(piece.kind, piece);
      case 'stroke':
      case 'picture':
      case 'instrument':
        return;
    }
  }

  /** Settles when what was typed before is whole on the page. */
  let ended: Promise<void> = Promise.resolve();

  function beginTyping(set: TextSet & { id: PieceId | null }): void {
    endTyping();
    if (whileTyping.value === 'pause') recording.pause();
    const begun = ended.then(desk.beginGesture);
    typing.value = { ...set, page: page().id, begun, settling: begun, settings: 0, rest: [] };
    if (set.id) selection.hold([set.id]);
  }

  /** Sets what has been typed so far, on the page. */
  function type(changes: Partial<Pick<Typing, 'text' | 'style'>>): Promise<void> {
    if (!typing.value) return Promise.resolve();
    const typed = Object.assign(typing.value, changes);
    triggerRef(typing);
    typed.settling = setTyped(typed).catch((error: Error) => {
      problem.value = error.message;
    });
    return typed.settling;
  }

  async function setTyped(typed: Typing): Promise<void> {
    const mine = ++typed.settings;
    const before = typed.id && pieceOn(typed.page, typed.id);
    const most = before && before.kind === 'shape' ? MOST_LABEL_LETTERS : MOST_LETTERS;
    const [text, ...rest] = dividedText(typed.text, most);
    const { drawing, missing } = await typesetter.text(text, typed.style, typed.wrapPt);
    await typed.begun;
    if (mine !== typed.settings) return;
    typed.rest = rest;
    problem.value =
      rest.length > 0
        ? `More than ${most.toLocaleString('en')} letters do not fit in here. The rest goes into a text of its own below.`
        : missing.length > 0
          ? `No font here has ${missing.join(' ')}. It shows as a box.`
          : null;
    const piece = typed.id && pieceOn(typed.page, typed.id);
    if (!piece) {
      if (typed.text === '') return;
      const made = textFrom({ ...typed, text }, drawing);
      typed.id = made.id;
      desk.change({ kind: 'place', page: typed.page, pieces: [made] });
    } else if (piece.kind === 'text') {
      desk.change({ kind: 'alter', page: typed.page, pieces: [retyped(piece, text, typed.style, drawing)] });
    } else if (piece.kind === 'shape') {
      const label = text === '' ? null : { text, style: typed.style };
      const content = { ...piece.content, label };
      const labelled = { ...piece, content, drawing: label ? drawing : NOTHING_DRAWN };
      desk.change({ kind: 'alter', page: typed.page, pieces: [labelled] });
    }
    triggerRef(typing);
  }

  const textFrom = ({ text, style, wrapPt, at, turnRad }: TextSet, drawing: Drawing): TextPiece => ({
    ...base(),
    kind: 'text',
    content: { text, style, wrapPt },
    drawing,
    frame: frameFrom(at, turnRad, drawing),
  });

  /** A text whose top left corner lies at a place. It is not on the page yet. */
  async function textPiece(text: string, style: TextStyle, at: PlacePt): Promise<TextPiece> {
    const { drawing } = await typesetter.text(text, style, null);
    return textFrom({ text, style, wrapPt: null, at, turnRad: 0 }, drawing);
  }

  /** Puts a whole text on the page at once, where it is typed on; what one text cannot hold goes below it. */
  async function typeWhole(text: string, at: PlacePt): Promise<void> {
    typeAt(at);
    await type({ text });
    endTyping();
    await ended;
  }

  /** Ends typing, once the last letters are on the page; a text with no letters is no text. */
  function endTyping(): void {
    const typed = typing.value;
    if (!typed) return;
    typing.value = null;
    // Whoever has taken a pen or the eraser keeps it.
    const mayTakeHold = pens.held === 'text' || pens.held === 'hold';
    ended = typed.settling.then(async () => {
      const piece = typed.id && pieceOn(typed.page, typed.id);
      if (piece) await placeRest(typed, piece);
      if (piece && piece.kind === 'text' && typed.text === '') {
        desk.change({ kind: 'lift', page: typed.page, pieceIds: [piece.id] });
      }
      desk.endGesture();
      if (!piece || typed.text === '' || typed.page !== desk.scene!.shown || !mayTakeHold || typing.value) return;
      pens.held = 'hold';
      selection.hold([piece.id]);
    });
  }

  /** Puts what did not fit in a text into further ones, each below the one before. */
  async function placeRest({ page: on, rest, style, wrapPt }: Typing, piece: Piece): Promise<void> {
    let { left, bottom } = pieceBounds(piece);
    for (const text of rest) {
      const { drawing } = await typesetter.text(text, style, wrapPt);
      const made = textFrom({ text, style, wrapPt, at: { xPt: left, yPt: bottom }, turnRad: 0 }, drawing);
      desk.change({ kind: 'place', page: on, pieces: [made] });
      ({ left, bottom } = pieceBounds(made));
    }
  }

  /** Changes how text looks: of what is taken hold of, and of what is typed next. */
  async function restyle(changes: Partial<TextStyle>): Promise<void> {
    textStyle.value = { ...textStyle.value, ...changes };
    if (typing.value) return type({ style: { ...typing.value.style, ...changes } });
    const changed: Piece[] = [];
    for (const piece of selection.pieces) {
      if (piece.kind === 'text') {
        const style = { ...piece.content.style, ...changes };
        const { drawing } = await typesetter.text(piece.content.text, style, piece.content.wrapPt);
        changed.push(retyped(piece, piece.content.text, style, drawing));
      } else if (piece.kind === 'shape' && piece.content.label) {
        const label = { ...piece.content.label, style: { ...piece.content.label.style, ...changes } };
        const { drawing } = await typesetter.text(label.text, label.style, null);
        changed.push({ ...piece, content: { ...piece.content, label }, drawing });
      }
    }
    selection.alter(changed);
  }

  /**
   * Breaks a text's lines at a width.
   * @param held the side that stays where it is
   */
  async function wrap(piece: TextPiece, widthPt: number, held: 'left' | 'right'): Promise<void> {
    const mine = ++askedWrap;
    const scale = piece.frame.heightPt / piece.drawing.heightPt;
    const { text, style } = piece.content;
    const wrapPt = Math.max(style.sizePt, widthPt / scale);
    const { drawing } = await typesetter.text(text, style, wrapPt);
    if (mine < setWrap) return;
    setWrap = mine;
    const content = { ...piece.content, wrapPt };
    selection.alter([{ ...piece, content, drawing, frame: grownFrame(piece.frame, drawing, scale, held) }]);
  }

  /** Changes how shapes look: those taken hold of, and the next ones. */
  function reshape(changes: Partial<Omit<Contents['shape'], 'label'>>): void {
    const { figure: chosen, ...style } = changes;
    if (chosen) figure.value = chosen;
    nextShape.value = { ...nextShape.value, ...style };
    selection.alter(
      selection.pieces
        .filter((piece) => piece.kind === 'shape')
        .map((piece) => ({ ...piece, content: { ...piece.content, ...changes } })),
    );
  }

  const typedPiece = computed(() => (typing.value?.id ? (pieceOn(typing.value.page, typing.value.id) ?? null) : null));

  return {
    figure,
    nextShape,
    textStyle,
    whileTyping,
    typing,
    typedPiece,
    useFigure,
    shapeBetween,
    placeShape,
    putInMiddle,
    typeAt,
    textPiece,
    open,
    type,
    typeWhole,
    endTyping,
    restyle,
    wrap,
    reshape,
  };
});
