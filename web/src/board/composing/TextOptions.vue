<script setup lang="ts">
import type { FontName, TextStyle } from '@kite-trail/core/lesson/content';
import { IconAlignCenter, IconAlignLeft, IconAlignRight, IconBold } from '@tabler/icons-vue';
import { computed } from 'vue';
import { useComposing } from './composing';
import { useSelection } from '../selection/selection';
import ActionButton from '../../controls/ActionButton.vue';

/** How text looks: of what is held, or of what is typed. */
const FONTS: { font: FontName; name: string }[] = [
  { font: 'clear', name: 'Clear' },
  { font: 'reader', name: 'Easy reading' },
  { font: 'school', name: 'First readers' },
  { font: 'book', name: 'Book' },
  { font: 'dyslexia', name: 'For dyslexia' },
];
const SIZES_PT = [10, 12, 14, 16, 20, 24, 28, 36, 48, 64, 96];
const ALIGNMENTS = [
  { align: 'left', name: 'Text on the left', icon: IconAlignLeft },
  { align: 'center', name: 'Text in the middle', icon: IconAlignCenter },
  { align: 'right', name: 'Text on the right', icon: IconAlignRight },
] as const;

const composing = useComposing();
const selection = useSelection();
const style = computed<TextStyle>(() => {
  if (composing.typing) return composing.typing.style;
  for (const one of selection.pieces) {
    if (one.kind === 'text') return one.content.style;
    if (one.kind === 'shape' && one.content.label) return one.content.label.style;
  }
  return composing.textStyle;
});
const sizes = computed(() => [...new Set([...SIZES_PT, style.value.sizePt])].sort((a, b) => a - b));
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value;
</script>

<template>
  <div class="options" role="group" aria-label="Text">
    <select
      class="select font"
      aria-label="Font"
      :value="style.font"
      @change="composing.restyle({ font: valueOf($event) as FontName })"
    >
      <option v-for="one in FONTS" :key="one.font" :value="one.font">{{ one.name }}</option>
    </select>
    <select
      class="select size"
      aria-label="Size of the text"
      :value="style.sizePt"
      @change="composing.restyle({ sizePt: Number(valueOf($event)) })"
    >
      <option v-for="size in sizes" :key="size" :value="size">{{ size }}</option>
    </select>
    <action-button
      name="Bold"
      :icon="IconBold"
      :pressed="style.bold"
      @mousedown.prevent
      @click="composing.restyle({ bold: !style.bold })"
    />
    <action-button
      v-for="one in ALIGNMENTS"
      :key="one.align"
      :name="one.name"
      :icon="one.icon"
      :pressed="style.align === one.align"
      @mousedown.prevent
      @click="composing.restyle({ align: one.align })"
    />
  </div>
</template>

<style scoped>
.options {
  display: flex;
  flex: none;
  gap: 2px;
  align-items: center;
}

.font {
  width: 8.5rem;
}

.size {
  width: 4.2rem;
}
</style>
