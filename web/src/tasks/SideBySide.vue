<script setup lang="ts">
import type { Reply } from '@kite-trail/core/contract/task';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { IconX } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import { onKeyStroke } from '@vueuse/core';
import ActionButton from '../controls/ActionButton.vue';
import { draftUrl, pageUrl } from '../server/tasks';

/** Some replies beside one another, as large as there is room, page by page: for whoever compares them, or a class that looks on. */
const { replies, pages, page } = defineProps<{
  replies: readonly { called: string; reply: Reply | null }[];
  pages: readonly PageId[];
  /** Where to begin; `null` for the first. */
  page: PageId | null;
}>();
const emit = defineEmits<{ close: [] }>();

const at = ref(Math.max(0, page ? pages.indexOf(page) : 0));
const columns = computed(() => Math.ceil(Math.sqrt(replies.length)));
/** What lies with the teacher; of what is asked now, what is written. */
const pictureOf = ({ id, pictureVersion, handIn }: Reply) =>
  handIn ? pageUrl(handIn.lesson, pages[at.value], handIn.pictureVersion) : draftUrl(id, pictureVersion);
const turn = (by: 1 | -1) => (at.value = Math.min(pages.length - 1, Math.max(0, at.value + by)));
onKeyStroke('Escape', () => emit('close'));
onKeyStroke('PageDown', () => turn(1));
onKeyStroke('PageUp', () => turn(-1));
</script>

<template>
  <section class="beside" role="dialog" aria-modal="true" aria-label="Side by side">
    <header>
      <n-button :disabled="at === 0" @click="turn(-1)">Page before</n-button>
      <span>Page {{ at + 1 }} of {{ pages.length }}</span>
      <n-button :disabled="at >= pages.length - 1" @click="turn(1)">Next page</n-button>
      <span class="room"></span>
      <action-button name="Close" :icon="IconX" @click="emit('close')" />
    </header>
    <div class="replies" :style="{ '--columns': columns }">
      <figure v-for="{ called, reply } in replies" :key="reply!.id">
        <img :src="pictureOf(reply!)" :alt="`Page ${at + 1} of ${called}`" />
        <figcaption dir="auto">{{ called }}</figcaption>
      </figure>
    </div>
  </section>
</template>

<style scoped>
.beside {
  position: fixed;
  inset: 0;
  z-index: 50;
  display: flex;
  flex-direction: column;
  background: var(--sail);
}

header {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  padding: 0.6rem 1rem;
}

.room {
  flex: 1;
}

.replies {
  display: grid;
  flex: 1;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  grid-auto-rows: minmax(0, 1fr);
  gap: 1rem;
  min-height: 0;
  padding: 0 1rem 1rem;
}

figure {
  display: flex;
  flex-direction: column;
  gap: 0.3rem;
  min-height: 0;
  margin: 0;
}

img {
  flex: 1;
  min-height: 0;
  object-fit: contain;
}

figcaption {
  font-weight: 650;
  text-align: center;
}
</style>
