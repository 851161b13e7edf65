import { BROADEST_PT, THINNEST_PT } from '@kite-trail/core/contract/pens';
import type { Pen } from '@kite-trail/core/lesson/piece';
import { useLocalStorage } from '../parts/local-storage';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { Tool } from '../capture/pen-input';
import { api } from '../server/api';

export type PenKind = Pen['kind'];

export const INK_COLORS = [
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
const SAVE_AFTER_MS = 800;

/** What the hand holds. */
export const usePens = defineStore('pens', () => {
  const roll = ref<Pen[]>(FIRST_ROLL.map((one) => ({ ...one })));
  const at = ref(0);
  const held = ref<'pen' | 'eraser' | 'hold'>('pen');
  const eraser = ref<{ takes: 'strokes' | 'parts'; radiusPt: number }>({ takes: 'strokes', radiusPt: 9 });
  /** The hand that writes; the tools stand on the other side. */
  const hand = useLocalStorage<'right' | 'left'>('kite-trail-hand', 'right');
  /** Whether a pen has ever touched a page on this device, and whether fingers write all the same. */
  const penSeen = useLocalStorage<'no' | 'yes'>('kite-trail-pen-seen', 'no');
  const fingers = useLocalStorage<'move' | 'write'>('kite-trail-fingers', 'move');
  const hasPen = computed({ get: () => penSeen.value === 'yes', set: (has) => (penSeen.value = has ? 'yes' : 'no') });
  const fingersWrite = computed({
    get: () => !hasPen.value || fingers.value === 'write',
    set: (write) => (fingers.value = write ? 'write' : 'move'),
  });
  /** Colours last used that are not among the named ones, as JSON. */
  const recent = useLocalStorage<string>('kite-trail-colors', '[]');
  let saveTimer = 0;

  const heldPen = computed(() => roll.value[at.value] ?? roll.value[0]);
  const recentColors = computed(() => JSON.parse(recent.value) as string[]);
  const tool = computed<Tool>(() => {
    if (held.value === 'eraser') return { kind: 'erase' };
    if (held.value === 'hold') return { kind: 'hold' };
    return { kind: 'write', pen: { ...heldPen.value } };
  });

  /** Lays out the teacher's own roll. Without a network the one at hand serves. */
  async function load(): Promise<void> {
    const kept = await api.pens().catch(() => null);
    if (kept) roll.value = kept;
    at.value = Math.min(at.value, roll.value.length - 1);
  }

  function save(): void {
    clearTimeout(saveTimer);
    // What cannot be kept now goes with the next change.
    saveTimer = window.setTimeout(() => void api.keepPens(roll.value).catch(() => {}), SAVE_AFTER_MS);
  }

  function pick(index: number): void {
    at.value = index;
    held.value = 'pen';
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
    if (INK_COLORS.some((one) => one.color === color)) return;
    const colors = [color, ...recentColors.value.filter((one) => one !== color)];
    recent.value = JSON.stringify(colors.slice(0, MOST_RECENT));
  }

  /** Adds a pen like the one held, and takes it. */
  function add(): void {
    roll.value.splice(at.value + 1, 0, { ...heldPen.value });
    pick(at.value + 1);
    save();
  }

  function remove(): void {
    if (roll.value.length === 1) return;
    roll.value.splice(at.value, 1);
    at.value = Math.min(at.value, roll.value.length - 1);
    save();
  }

  /** Puts the pens in another order; the one held stays in the hand. */
  function reorder(order: Pen[]): void {
    const inHand = heldPen.value;
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
    hand,
    recentColors,
    hasPen,
    fingersWrite,
    tool,
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
  return `${INK_COLORS.find((one) => one.color === color)?.name ?? color} ${KIND_NAMES[kind]}`;
}
