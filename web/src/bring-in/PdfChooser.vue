<script setup lang="ts">
import { NButton } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useBringIn } from './bring-in';
import PdfThumb from './PdfThumb.vue';
import DialogCard from '../controls/DialogCard.vue';

/** Chooses which pages of a PDF become pages of the lesson; all of them, unless some are taken out. */
const bringIn = useBringIn();
const excluded = ref<ReadonlySet<number>>(new Set());
let lastTouched = 0;

const count = computed(() => bringIn.choice?.pdf.pageCount ?? 0);
const chosen = computed(() => Array.from({ length: count.value }, (_, n) => n).filter((n) => !excluded.value.has(n)));

watch(
  () => bringIn.choice,
  () => (excluded.value = new Set()),
);

/** With Shift, all between the last one touched and this one follow it. */
function toggle(n: number, event: MouseEvent | KeyboardEvent) {
  const isExcluding = !excluded.value.has(n);
  const next = new Set(excluded.value);
  const from = event.shiftKey ? Math.min(lastTouched, n) : n;
  const to = event.shiftKey ? Math.max(lastTouched, n) : n;
  for (let i = from; i <= to; i++) {
    if (isExcluding) next.add(i);
    else next.delete(i);
  }
  excluded.value = next;
  lastTouched = n;
}

const all = () => (excluded.value = new Set());
const none = () => (excluded.value = new Set(Array.from({ length: count.value }, (_, n) => n)));
</script>

<template>
  <dialog-card
    :show="bringIn.choice !== null"
    class="chooser"
    :title="`Pages of ${bringIn.choice?.file.name ?? ''}`"
    :mask-closable="false"
    @close="bringIn.dismiss()"
    @esc="bringIn.dismiss()"
  >
    <div v-if="bringIn.choice" class="thumbs" role="group" aria-label="Pages of the PDF">
      <pdf-thumb
        v-for="n in count"
        :key="n"
        :pdf="bringIn.choice.pdf"
        :index="n - 1"
        :chosen="!excluded.has(n - 1)"
        @toggle="(event) => toggle(n - 1, event)"
      />
    </div>
    <template #footer>
      <n-button text @click="all">All</n-button>
      <n-button text @click="none">None</n-button>
      <span class="note">Shift chooses a stretch.</span>
      <n-button @click="bringIn.dismiss()">Cancel</n-button>
      <n-button type="primary" :disabled="chosen.length === 0" @click="bringIn.takePages(chosen)">
        {{ chosen.length === 1 ? 'Add 1 page' : `Add ${chosen.length} pages` }}
      </n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.thumbs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(116px, 1fr));
  gap: 10px;
  max-height: 60vh;
  padding: 3px;
  overflow-y: auto;
}

.note {
  flex: 1;
  color: var(--ink-soft);
}
</style>

<style>
.chooser {
  width: min(860px, 94vw);
}
</style>
