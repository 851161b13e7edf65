<script setup lang="ts">
import type { LessonId } from '@kite-trail/core/lesson/ids';
import {
  IconArrowBackUp,
  IconFolderSymlink,
  IconPackageExport,
  IconStar,
  IconTrash,
  IconUserShare,
  IconX,
} from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import { useLessons } from './lessons';

/** What is done with all lessons that are chosen. */
const { ids, isBin } = defineProps<{ ids: readonly LessonId[]; isBin: boolean }>();
const emit = defineEmits<{ all: []; none: []; move: []; hand: []; drop: [] }>();

const store = useLessons();
const areFavourites = computed(() =>
  ids.every((id) => store.lessons?.find((lesson) => lesson.id === id)?.isFavourite ?? false),
);

/** What becomes of lessons is their owners' to say. */
const areOwn = computed(() => (store.lessons ?? []).every(({ id, owner }) => owner === null || !ids.includes(id)));

async function doing(what: Promise<boolean>) {
  if (await what) emit('none');
}
</script>

<template>
  <section class="bar" aria-label="Chosen lessons">
    <strong class="count">{{ ids.length }} chosen</strong>
    <n-button quaternary @click="emit('all')">Choose all</n-button>
    <span class="room"></span>
    <template v-if="isBin">
      <action-button name="Put back" :icon="IconArrowBackUp" named @click="doing(store.unbin(ids))" />
      <action-button name="Delete for good" :icon="IconTrash" named @click="emit('drop')" />
    </template>
    <template v-else>
      <action-button
        name="Archive"
        title="Download them as an archive"
        :icon="IconPackageExport"
        named
        @click="store.archive(ids)"
      />
      <action-button name="Move" title="Move to a class" :icon="IconFolderSymlink" named @click="emit('move')" />
      <action-button
        v-if="areOwn"
        name="Hand over"
        title="Hand over to a colleague"
        :icon="IconUserShare"
        named
        @click="emit('hand')"
      />
      <action-button
        name="Favourite"
        :icon="IconStar"
        :pressed="areFavourites"
        named
        @click="store.favour(ids, !areFavourites)"
      />
      <action-button
        v-if="areOwn"
        name="Bin"
        title="Put into the bin"
        :icon="IconTrash"
        named
        @click="doing(store.bin(ids))"
      />
    </template>
    <action-button name="Choose none" :icon="IconX" @click="emit('none')" />
  </section>
</template>

<style scoped>
.bar {
  position: sticky;
  top: 0;
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  padding: 4px 8px 4px 16px;
  margin-bottom: 1rem;
  background: var(--straw-pale);
  border-radius: var(--radius);
}

.room {
  flex: 1;
}
</style>
