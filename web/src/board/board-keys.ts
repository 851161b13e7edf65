import { moveBy } from '@kite-trail/core/lesson/matrix';
import type { Key } from '../lesson/frame/keys';
import { useDress } from '../lesson/frame/dress';
import { useLesson } from '../lesson/lesson';
import { useSurface } from '../lesson/surface';
import { useAudience } from './audience';
import { useComposing } from './composing/composing';
import { usePens } from './pens/pens';
import { useToolsHere } from './pens/tools-here';
import { useSelection } from './selection/selection';
import { useView } from './view';

/** Which way an arrow key moves the page, in pixels: what lies that way comes into view. */
const PAN_PX = 80;
const PANS: Record<string, [number, number]> = {
  ArrowLeft: [PAN_PX, 0],
  ArrowRight: [-PAN_PX, 0],
  ArrowUp: [0, PAN_PX],
  ArrowDown: [0, -PAN_PX],
};

const NUDGE_PT = 1;
const FAR_NUDGE_PT = 12;
/** What is held goes where the arrow points: the page under a pan goes the other way. */
const nudgeBy = (arrow: string, stepPt: number) =>
  moveBy(-Math.sign(PANS[arrow][0]) * stepPt, -Math.sign(PANS[arrow][1]) * stepPt);

/** Keys for what is in the hand, and for how the page is looked at. */
export function useBoardKeys(): Key[] {
  const lesson = useLesson();
  const surface = useSurface();
  const pens = usePens();
  const selection = useSelection();
  const view = useView();
  const composing = useComposing();
  const toolsHere = useToolsHere();
  const audience = useAudience();
  const dress = useDress();

  const take = (held: typeof pens.held) => () => (pens.held = held);
  /** What was in the hand before it took hold of everything. */
  let before: typeof pens.held | null = null;

  function holdAll() {
    if (pens.held !== 'hold') before = pens.held;
    pens.held = 'hold';
    if (surface.isWritable) selection.holdEverything();
  }

  /** Lets go. A tool that was put away to take everything is in the hand again; any other stays there. */
  function letGo() {
    selection.letGo();
    if (before !== null && pens.held === 'hold') pens.held = before;
    before = null;
  }

  return [
    { keys: 'G', does: 'Take hold of things on the page', run: take('hold') },
    {
      keys: 'T',
      does: 'Type text where the page is touched',
      when: () => dress.may('text'),
      run: take('text'),
    },
    { keys: 'L', does: 'Pointer', run: take('point') },
    { keys: 'P', does: 'Pen', run: () => pens.pickSort('pen') },
    { keys: 'H', does: 'Highlighter', run: () => pens.pickSort('highlighter') },
    { keys: 'E', does: 'Eraser', run: take('eraser') },
    {
      keys: 'Q',
      does: 'Call the tools to where the hand is (or touch with two fingers)',
      when: () => surface.isWritable,
      run: () => toolsHere.toggle(),
    },
    { keys: 'Ctrl A', does: 'Take hold of all on the page', run: holdAll },
    { keys: 'Esc', does: 'Let go of what is held', when: () => selection.pieces.length > 0, run: letGo },
    { keys: 'Ctrl D', does: 'Duplicate what is held', run: () => selection.duplicate() },
    { keys: '+', does: 'See the page larger', run: () => view.nearer() },
    { keys: '−', does: 'See the page smaller', run: () => view.farther() },
    { keys: '0', does: 'See all of the page', run: () => view.whole() },
    {
      keys: 'Enter',
      does: 'Put the text or shape in the hand on the middle of the page',
      when: () => surface.isWritable && (pens.held === 'text' || pens.held === 'shape') && !composing.typing,
      run: () => composing.putInMiddle(),
    },
    {
      keys: 'Arrows',
      does: 'Move what is held; with Shift, farther',
      when: () => selection.pieces.length > 0 && !selection.isLocked,
      run: ({ key, shiftKey }) => selection.step(nudgeBy(key, shiftKey ? FAR_NUDGE_PT : NUDGE_PT)),
    },
    { keys: 'Arrows', does: 'Move the page that is seen larger', run: ({ key }) => view.panBy(...PANS[key]) },
    { keys: 'W', does: 'See all of the page’s width', run: () => view.fitWidth() },
    { keys: 'V', does: 'See what is held as large as it can be', run: () => selection.lookCloser() },
    {
      keys: 'A',
      does: 'Audience window: the page alone, for a projector',
      run: () => audience.toggle(lesson.document!.title),
    },
  ];
}
