/** What keys do on the lesson's screen; the sheet behind `?` lists the same. */
export const LESSON_KEYS = [
  { action: 'record', keys: 'R', does: 'Record, and stop' },
  { action: 'play', keys: 'Space', does: 'Play or pause; while recording, pause or resume' },
  { action: 'cancel', keys: 'Esc', does: 'Give up a countdown or a run-up' },
  { action: 'hold-ink', keys: 'I', does: 'While a new voice is spoken: let the ink wait, or go on' },
  { action: 'next-page', keys: 'Page down', does: 'Next page' },
  { action: 'previous-page', keys: 'Page up', does: 'Page before' },
  { action: 'first-page', keys: 'Home', does: 'First page' },
  { action: 'last-page', keys: 'End', does: 'Last page' },
  { action: 'page-number', keys: '1–9', does: 'To a page by its number' },
  { action: 'add-page', keys: 'N', does: 'Add a page' },
  { action: 'hold', keys: 'G', does: 'Take hold of things on the page' },
  { action: 'text', keys: 'T', does: 'Type text where the page is touched' },
  { action: 'point', keys: 'L', does: 'Pointer' },
  { action: 'take-all', keys: 'Ctrl A', does: 'Take hold of all on the page' },
  { action: 'duplicate', keys: 'Ctrl D', does: 'Duplicate what is held' },
  { action: 'pen', keys: 'P', does: 'Pen' },
  { action: 'highlighter', keys: 'H', does: 'Highlighter' },
  { action: 'eraser', keys: 'E', does: 'Eraser' },
  { action: 'larger', keys: '+', does: 'See the page larger' },
  { action: 'smaller', keys: '−', does: 'See the page smaller' },
  { action: 'whole', keys: '0', does: 'See all of the page' },
  { action: 'pan', keys: 'Arrows', does: 'Move the page that is seen larger' },
  { action: 'width', keys: 'W', does: 'See all of the page’s width' },
  { action: 'closer', keys: 'V', does: 'See what is held as large as it can be' },
  { action: 'audience', keys: 'A', does: 'Audience window: the page alone, for a projector' },
  { action: 'undo', keys: 'Ctrl Z', does: 'Undo' },
  { action: 'redo', keys: 'Ctrl Shift Z', does: 'Redo' },
  { action: 'stretch-from', keys: '[', does: 'Trimming: the stretch begins here' },
  { action: 'stretch-to', keys: ']', does: 'Trimming: the stretch ends here' },
  { action: 'cut-keep', keys: 'Delete', does: 'Trimming: cut the stretch and keep its ink, or take chosen ink out' },
  { action: 'cut-drop', keys: 'Shift Delete', does: 'Trimming: cut the stretch with its ink' },
  { action: 'split', keys: 'S', does: 'Trimming: split at the playhead' },
  { action: 'step-on', keys: '.', does: 'Trimming: step on, by what is chosen beside the clock' },
  { action: 'step-back', keys: ',', does: 'Trimming: step back' },
  { action: 'step-by', keys: 'B', does: 'Trimming: step by something else' },
  { action: 'shortcuts', keys: '?', does: 'This sheet' },
] as const;

export type LessonAction = (typeof LESSON_KEYS)[number]['action'];

const PLAIN: Record<string, LessonAction> = {
  r: 'record',
  ' ': 'play',
  i: 'hold-ink',
  Escape: 'cancel',
  PageDown: 'next-page',
  PageUp: 'previous-page',
  Home: 'first-page',
  End: 'last-page',
  n: 'add-page',
  g: 'hold',
  t: 'text',
  l: 'point',
  p: 'pen',
  h: 'highlighter',
  e: 'eraser',
  '+': 'larger',
  '-': 'smaller',
  '0': 'whole',
  ArrowLeft: 'pan',
  ArrowRight: 'pan',
  ArrowUp: 'pan',
  ArrowDown: 'pan',
  w: 'width',
  v: 'closer',
  a: 'audience',
  '[': 'stretch-from',
  ']': 'stretch-to',
  Delete: 'cut-keep',
  Backspace: 'cut-keep',
  s: 'split',
  '.': 'step-on',
  ',': 'step-back',
  b: 'step-by',
  '?': 'shortcuts',
};

/** The action a key asks for, unless somebody is typing or the key belongs to what has the focus. */
export function pressed(event: KeyboardEvent): LessonAction | null {
  const target = event.target as HTMLElement;
  if (target.closest('input, textarea, select, [role="dialog"]')) return null;
  if (event.key === ' ' && target.closest('button, a')) return null;
  if (
    target.getAttribute('role') === 'slider' &&
    (/^(Page|Arrow)/.test(event.key) || event.key === 'Home' || event.key === 'End')
  )
    return null;
  if (event.ctrlKey || event.metaKey) {
    const key = event.key.toLowerCase();
    if (key === 'z') return event.shiftKey ? 'redo' : 'undo';
    return key === 'a' ? 'take-all' : key === 'd' ? 'duplicate' : null;
  }
  if (event.altKey) return null;
  if (event.shiftKey && (event.key === 'Delete' || event.key === 'Backspace')) return 'cut-drop';
  if (/^[1-9]$/.test(event.key)) return 'page-number';
  return PLAIN[event.key.length === 1 ? event.key.toLowerCase() : event.key] ?? null;
}
