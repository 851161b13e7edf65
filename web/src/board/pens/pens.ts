import { BROADEST_PT, MOST_LETTERS, THINNEST_PT, type OwnLetter } from '@kite-trail/core/contract/pens';
import type { Pointer } from '@kite-trail/core/lesson/mark';
import type { Pen } from '@kite-trail/core/lesson/piece';
import { useKeptSetting } from '../../device/kept-setting';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { PenDevice, Tool } from '../../capture/pen-input';
import { useKeptPens } from './kept-pens';

export type PenKind = Pen['kind'];

const INK_COLORS = [
  { name: 'Night', color: '#1f2a44' },
  { name: 'Kite red', color: '#c23b1e' },
  { name: 'Sea', color: '#12776f' },
  { name: 'Channel blue', color: '#2459a8' },
  { name: 'Plum', color: '#7a3e8e' },
  { name: 'Amber', color: '#b86a00' },
  { name: 'Straw', color: '#e9b82e' },
  { name: 'Slate', color: '#56607a' },
] as const;

/** Three widths at hand; a highlighter's are broader. */
export const WIDTHS_AT_HAND = [
  { name: 'Fine', widthPt: 1.6, broadPt: 10 },
  { name: 'Medium', widthPt: 2.8, broadPt: 16 },
  { name: 'Broad', widthPt: 5, broadPt: 24 },
] as const;

const pen = (color: string): Pen => ({ kind: 'pen', color, widthPt: WIDTHS_AT_HAND[1].widthPt });

const FIRST_ROLL: Pen[] = [
  ...INK_COLORS.slice(0, 4).map(({ color }) => pen(color)),
  { kind: 'highlighter', color: '#e9b82e', widthPt: 16 },
];

export const ERASER_SIZES = [
  { name: 'Small', radiusPt: 4 },
  { name: 'Medium', radiusPt: 9 },
  { name: 'Large', radiusPt: 20 },
] as const;

const MOST_RECENT = 6;
const MOST_COLORS = 16;
const SAVE_AFTER_MS = 800;

/** With `hold`, things on the page are taken hold of; with `text` and `shape` they are put there; with `point` shown. */
type HeldTool = 'pen' | 'eraser' | 'hold' | 'text' | 'shape' | 'point';

/** What the hand holds. */
export const usePens = defineStore('pens', () => {
  const kept = useKeptPens();
  const roll = ref<Pen[]>(FIRST_ROLL.map((one) => ({ ...one })));
  const at = ref(0);
  const held = ref<HeldTool>('pen');
  const eraser = ref<{ takes: 'strokes' | 'parts'; radiusPt: number }>({ takes: 'strokes', radiusPt: 9 });
  /** Whether the hand takes what a loop is drawn around, or a box. */
  const holdsBy = useKeptSetting<'loop' | 'box'>('kite-trail-takes-by', 'loop');
  const pointer = ref<{ pointer: Pointer; color: string }>({ pointer: 'dot', color: '#d9482b' });
  /** Whether a palm or fist laid on the page rubs out what is under it: for classroom panels. */
  const palm = useKeptSetting<'rests' | 'erases'>('kite-trail-palm', 'rests');
  const palmErases = computed({
    get: () => palm.value === 'erases',
    set: (is) => (palm.value = is ? 'erases' : 'rests'),
  });
  /** Which pen of the roll each pen of the screen writes like, where the screen tells them apart. */
  const ofDevice = new Map<PenDevice, number>();
  /** The hand that writes; the tools stand on the other side. */
  const hand = useKeptSetting<'right' | 'left'>('kite-trail-hand', 'right');
  /** Whether a pen has ever touched a page on this device, and whether fingers write all the same. */
  const penSeen = useKeptSetting<'no' | 'yes'>('kite-trail-pen-seen', 'no');
  const fingers = useKeptSetting<'move' | 'write'>('kite-trail-fingers', 'move');
  const hasPen = computed({ get: () => penSeen.value === 'yes', set: (has) => (penSeen.value = has ? 'yes' : 'no') });
  const fingersWrite = computed({
    get: () => !hasPen.value || fingers.value === 'write',
    set: (write) => (fingers.value = write ? 'write' : 'move'),
  });
  /** The teacher's own colours; `null` while they are the first ones. */
  const ownPalette = ref<string[] | null>(null);
  const palette = computed(() =>
    (ownPalette.value ?? INK_COLORS.map(({ color }) => color)).map((color) => ({ name: colorName(color), color })),
  );
  /** How hard one must press for a broad line: 0 soft to 1 hard. It is this device's, for pens differ. */
  const hardness = useKeptSetting<string>('kite-trail-pressure', '0.5');
  const pressHardness = computed({
    get: () => Number(hardness.value),
    set: (value) => (hardness.value = String(value)),
  });
  /** Whether all that is drawn becomes exact, not only where the pen is held still. */
  const straight = useKeptSetting<'held' | 'always'>('kite-trail-straight', 'held');
  /** Colours last used that are not among the named ones, as JSON. */
  const recent = useKeptSetting<string>('kite-trail-colors', '[]');
  /** Letters as this teacher writes them. */
  const letters = ref<OwnLetter[]>([]);
  let saveTimer: ReturnType<typeof setTimeout> | undefined;

  const heldPen = computed(() => roll.value[at.value] ?? roll.value[0]);
  const recentColors = computed(() => JSON.parse(recent.value) as string[]);
  /** What a pen does that touches the page: each of several writes as it was told to. */
  function toolOf(device: PenDevice): Tool {
    if (held.value === 'eraser') return { kind: 'erase' };
    if (held.value !== 'pen') return { kind: 'other' };
    return { kind: 'write', pen: { ...(roll.value[ofDevice.get(device) ?? -1] ?? heldPen.value) } };
  }

  /** Lays out the teacher's own roll. Where the school cannot give it, the one at hand serves. */
  async function load(): Promise<void> {
    const found = await kept.load();
    if (found?.roll) roll.value = found.roll;
    if (found?.palette) ownPalette.value = found.palette;
    letters.value = found?.letters ?? [];
    at.value = Math.min(at.value, roll.value.length - 1);
  }

  function save(): void {
    clearTimeout(saveTimer);
    saveTimer = setTimeout(
      () => void kept.keep({ roll: roll.value, palette: ownPalette.value, letters: letters.value }),
      SAVE_AFTER_MS,
    );
  }

  /** @param device the pen that touched it, where several are told apart; whoever picks by other means picks for all */
  function pick(index: number, device: PenDevice = 0): void {
    at.value = index;
    held.value = 'pen';
    if (device === 0) ofDevice.clear();
    else ofDevice.set(device, index);
  }

  /** Takes the first pen of a sort. */
  function pickSort(sort: 'pen' | 'highlighter'): void {
    const isSort = ({ kind }: Pen) => (kind === 'highlighter') === (sort === 'highlighter');
    if (held.value === 'pen' && isSort(heldPen.value)) return;
    const found = roll.value.findIndex(isSort);
    if (found >= 0) pick(found);
  }

  function change(changes: Partial<Pen>): void {
    const changed = { ...heldPen.value, ...changes };
    changed.widthPt = Math.min(BROADEST_PT, Math.max(THINNEST_PT, changed.widthPt));
    roll.value[at.value] = changed;
    held.value = 'pen';
    if (changes.color) remember(changes.color);
    save();
  }

  function remember(color: string): void {
    if (palette.value.some((one) => one.color === color)) return;
    const colors = [color, ...recentColors.value.filter((one) => one !== color)];
    recent.value = JSON.stringify(colors.slice(0, MOST_RECENT));
  }

  function addToPalette(color: string): void {
    if (palette.value.some((one) => one.color === color)) return;
    ownPalette.value = [...palette.value.map((one) => one.color), color].slice(-MOST_COLORS);
    save();
  }

  function takeFromPalette(color: string): void {
    if (palette.value.length === 1) return;
    ownPalette.value = palette.value.map((one) => one.color).filter((one) => one !== color);
    save();
  }

  /** Remembers how this teacher writes letters; the newest ways are kept. */
  function learn(learnt: readonly OwnLetter[]): void {
    letters.value = [...letters.value, ...learnt].slice(-MOST_LETTERS);
    save();
  }

  function forgetLetters(): void {
    letters.value = [];
    save();
  }

  /** Adds a pen like the one held, and takes it. */
  function add(): void {
    roll.value.splice(at.value + 1, 0, { ...heldPen.value });
    pick(at.value + 1);
    save();
  }

  function remove(): void {
    if (roll.value.length === 1) return;
    ofDevice.clear();
    roll.value.splice(at.value, 1);
    at.value = Math.min(at.value, roll.value.length - 1);
    save();
  }

  /** Puts the pens in another order; the one held stays in the hand. */
  function reorder(order: Pen[]): void {
    const inHand = heldPen.value;
    ofDevice.clear();
    roll.value = order;
    at.value = Math.max(0, order.indexOf(inHand));
    save();
  }

  return {
    roll,
    at,
    held,
    heldPen,
    eraser,
    holdsBy,
    pointer,
    palette,
    letters,
    learn,
    forgetLetters,
    addToPalette,
    takeFromPalette,
    pressHardness,
    straight,
    hand,
    recentColors,
    hasPen,
    fingersWrite,
    palmErases,
    toolOf,
    load,
    pick,
    pickSort,
    change,
    add,
    remove,
    reorder,
  };
});

const KIND_NAMES: Record<PenKind, string> = {
  pen: 'pen',
  ballpoint: 'ballpoint',
  fountain: 'fountain pen',
  pencil: 'pencil',
  marker: 'marker',
  highlighter: 'highlighter',
  dashed: 'dashed pen',
  fading: 'fading ink',
};
export const PEN_SORTS = Object.entries(KIND_NAMES).map(([kind, name]) => ({
  kind: kind as PenKind,
  name: name[0].toUpperCase() + name.slice(1),
}));

/** What a pen is called, such as `Kite red pen`. */
export function penName({ kind, color }: Pen): string {
  if (kind === 'highlighter' && color === '#e9b82e') return 'Highlighter';
  return `${colorName(color)} ${KIND_NAMES[kind]}`;
}

const colorName = (color: string): string => INK_COLORS.find((one) => one.color === color)?.name ?? color;
