<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue';
import type { PdfDocument } from '../pdf/pdf-document';

/** One page of a PDF as a small picture that can be chosen or left out; drawn when it comes into view. */
const props = defineProps<{ pdf: PdfDocument; index: number; chosen: boolean }>();
const emit = defineEmits<{ toggle: [event: MouseEvent] }>();

/** Twice as fine as it is shown, so that lines stay smooth. */
const WIDTH_PX = 320;

const button = ref<HTMLButtonElement>();
const canvas = ref<HTMLCanvasElement>();
const observer = new IntersectionObserver((entries) => {
  if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
  observer.disconnect();
  void draw();
});
onMounted(() => observer.observe(button.value!));
onBeforeUnmount(() => observer.disconnect());

async function draw() {
  const bitmap = await props.pdf.draw(props.index, WIDTH_PX).catch(() => null);
  if (!bitmap || !canvas.value) return;
  canvas.value.width = bitmap.width;
  canvas.value.height = bitmap.height;
  canvas.value.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap);
}
</script>

<template>
  <button
    ref="button"
    class="thumb"
    role="checkbox"
    :aria-checked="chosen"
    :aria-label="`PDF page ${index + 1}`"
    @click="emit('toggle', $event)"
  >
    <canvas ref="canvas"></canvas>
    <span class="number">{{ index + 1 }}</span>
  </button>
</template>

<style scoped>
.thumb {
  position: relative;
  display: grid;
  place-items: center;
  /* As high before its picture has come as after. */
  height: 176px;
  padding: 6px;
  cursor: pointer;
  background: var(--sail-deep);
  border: 2px solid transparent;
  border-radius: 8px;
}

.thumb canvas {
  max-width: 100%;
  max-height: 160px;
  background: #fff;
  opacity: 0.35;
}

.thumb[aria-checked='true'] {
  border-color: var(--tail);
}

.thumb[aria-checked='true'] canvas {
  opacity: 1;
}

.number {
  position: absolute;
  right: 6px;
  bottom: 6px;
  padding: 0 6px;
  background: var(--veil);
  border-radius: 5px;
}
</style>
