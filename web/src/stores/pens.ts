import type { Pen } from '@kite-trail/core/lesson/piece';
import { useLocalStorage } from '../parts/local-storage';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { Tool } from '../capture/pen-input';

export const INK_COLORS = [
  { name: 'Night', color: '#1f2a44' },
  { name: 'Kite red', color: '#c23b1e' },
  { name: 'Sea', color: '#12776f' },
  { name: 'Channel blue', color: '#2459a8' },
] as const;

export const PEN_WIDTHS = [
  { name: 'Fine', widthPt: 1.6 },
  { name: 'Medium', widthPt: 2.8 },
  { name: 'Broad', widthPt: 5 },
] as const;

const HIGHLIGHTER: Pen = { kind: 'highlighter', color: '#e9b82e', widthPt: 16 };

/** What the hand holds. */
export const usePens = defineStore('pens', () => {
  const held = ref<'pen' | 'highlighter' | 'eraser' | 'hold'>('pen');
  const color = ref<string>(INK_COLORS[0].color);
  const widthPt = ref<number>(PEN_WIDTHS[1].widthPt);
  /** The hand that writes; the tools stand on the other side. */
  const hand = useLocalStorage<'right' | 'left'>('kite-trail-hand', 'right');

  const tool = computed<Tool>(() => {
    if (held.value === 'eraser') return { kind: 'erase' };
    if (held.value === 'hold') return { kind: 'hold' };
    if (held.value === 'highlighter') return { kind: 'write', pen: HIGHLIGHTER };
    return { kind: 'write', pen: { kind: 'pen', color: color.value, widthPt: widthPt.value } };
  });

  function pick(newColor: string): void {
    color.value = newColor;
    held.value = 'pen';
  }

  function setWidth(width: number): void {
    widthPt.value = width;
    held.value = 'pen';
  }

  return { held, color, widthPt, hand, tool, pick, setWidth };
});
