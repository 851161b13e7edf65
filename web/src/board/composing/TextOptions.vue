<script setup lang="ts">
import type { FontName, TextStyle } from '@kite-trail/core/lesson/content';
import { IconAlignCenter, IconAlignLeft, IconAlignRight, IconBold } from '@tabler/icons-vue';
import { computed } from 'vue';
import { useComposing } from './composing';
import { useSelection } from '../selection/selection';
import ActionButton from '../../controls/ActionButton.vue';
import SelectField from '../../controls/SelectField.vue';

/** How text looks: of what is held, or of what is typed. */
const FONTS: { value: FontName; label: string }[] = [
  { value: 'clear', label: 'Clear' },
  { value: 'reader', label: 'Easy reading' },
  { value: 'school', label: 'First readers' },
  { value: 'book', label: 'Book' },
  { value: 'dyslexia', label: 'For dyslexia' },
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
const sizes = computed(() =>
  [...new Set([...SIZES_PT, style.value.sizePt])]
    .sort((a, b) => a - b)
    .map((value) => ({ value, label: String(value) })),
);
</script>

<template>
  <div class="options" role="group" aria-label="Text">
    <select-field
      class="font"
      label="Font"
      :options="FONTS"
      :model-value="style.font"
      @update:model-value="(font) => composing.restyle({ font })"
    />
    <select-field
      class="size"
      label="Size of the text"
      :options="sizes"
      :model-value="style.sizePt"
      @update:model-value="(sizePt) => composing.restyle({ sizePt })"
    />
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
