<script setup lang="ts">
import { movedTo } from '@kite-trail/core/lesson/matrix';
import { frameMatrix } from '@kite-trail/core/lesson/frame';
import type { Placement } from '@kite-trail/core/paint/surface';
import { LINE_SHARE } from '@kite-trail/core/typeset/line-share';
import { computed, onMounted, ref } from 'vue';
import { useComposing } from './composing';

/**
 * Where text is typed: over the page, in the same font. The letters seen are those on the page; here are the caret and
 * what is marked.
 */
const props = defineProps<{ placement: Placement }>();

/** As the stylesheets of the fonts call them. */
const FAMILIES = {
  clear: 'Atkinson Hyperlegible Next',
  reader: 'Lexend',
  school: 'Andika',
  book: 'Literata',
  dyslexia: 'OpenDyslexic',
} as const;
const LEAST_EM = 1;

const composing = useComposing();
const entry = ref<HTMLTextAreaElement>();
const text = ref(composing.typing!.text);

/** Once there is a piece, the entry lies where its letters do. */
const style = computed(() => {
  const { pxPerPt, leftPx, topPx } = props.placement;
  const typing = composing.typing!;
  const piece = composing.typedPiece;
  const size = typing.style.sizePt;
  const drawing = piece?.kind === 'text' || piece?.kind === 'shape' ? piece.drawing : null;
  const width = drawing?.widthPt || size * LEAST_EM;
  const height = drawing?.heightPt || size * LINE_SHARE;
  let { at } = typing;
  let scale = 1;
  if (piece?.kind === 'text') {
    scale = piece.frame.heightPt / piece.drawing.heightPt;
    at = movedTo(frameMatrix({ ...piece.frame, mirrored: false }), {
      xPt: -piece.frame.widthPt / 2,
      yPt: -piece.frame.heightPt / 2,
    });
  } else if (piece?.kind === 'shape') {
    at = { xPt: piece.frame.xPt - width / 2, yPt: piece.frame.yPt - height / 2 };
  }
  return {
    left: `${leftPx + at.xPt * pxPerPt}px`,
    top: `${topPx + at.yPt * pxPerPt}px`,
    width: `${(width + (typing.wrapPt === null ? size * LEAST_EM : 0)) * pxPerPt * scale}px`,
    height: `${height * pxPerPt * scale}px`,
    font: `${typing.style.bold ? 700 : 400} ${size * pxPerPt * scale}px/${LINE_SHARE} '${FAMILIES[typing.style.font]}'`,
    textAlign: typing.style.align,
    transform: `rotate(${typing.turnRad}rad)`,
  };
});

// The press that began it must not take the focus away again.
onMounted(() => requestAnimationFrame(() => entry.value?.focus()));

/** Whoever chooses a size or a font goes on typing. */
function left(event: FocusEvent) {
  const to = event.relatedTarget as Element | null;
  if (!to?.closest('[role="group"][aria-label="Text"]')) composing.endTyping();
}
</script>

<template>
  <textarea
    ref="entry"
    v-model="text"
    class="entry"
    aria-label="Text on the page"
    spellcheck="false"
    :wrap="composing.typing?.wrapPt === null ? 'off' : 'soft'"
    :style="style"
    @input="composing.type({ text })"
    @keydown.esc.stop="composing.endTyping()"
    @blur="left"
    @pointerdown.stop
  ></textarea>
</template>

<style scoped>
.entry {
  position: absolute;
  z-index: 4;
  padding: 0;
  overflow: hidden;
  color: transparent;
  caret-color: var(--tail);
  resize: none;
  background: transparent;
  border: 0;
  outline: 2px dashed var(--straw);
  outline-offset: 4px;
  transform-origin: 0 0;
}

.entry::selection {
  background: rgb(18 119 111 / 30%);
}
</style>
