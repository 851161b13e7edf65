<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { IconPackageExport, IconPencil, IconSchool, IconUsers } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import ActionButton from '../../controls/ActionButton.vue';
import { pictureUrl } from '../../server/api';
import StudentsDialog from '../../tasks/StudentsDialog.vue';
import ClassDialog from './ClassDialog.vue';
import ClassPageDialog from './ClassPageDialog.vue';
import ClassPennant from './ClassPennant.vue';
import { useLessons } from '../lessons';

/** A class above its lessons: its name, what stands for it, and how it is changed. */
const { schoolClass } = defineProps<{ schoolClass: SchoolClass }>();
const store = useLessons();
const isOpen = ref(false);
const isPageOpen = ref(false);
const areStudentsOpen = ref(false);
const router = useRouter();

const cover = computed(() => {
  const id = schoolClass.cover ?? schoolClass.lessons[0];
  return store.lessons?.find((lesson) => lesson.id === id) ?? null;
});
const counted = computed(() =>
  schoolClass.lessons.length === 1 ? '1 lesson' : `${schoolClass.lessons.length} lessons`,
);
</script>

<template>
  <header class="class" :style="{ '--color': `var(--class-${schoolClass.color})` }">
    <img v-if="cover" :src="pictureUrl(cover)" alt="" class="cover" />
    <div class="told">
      <h1 class="name">
        <class-pennant :color="schoolClass.color" /><span dir="auto">{{ schoolClass.name }}</span>
      </h1>
      <p class="facts">{{ counted }}<template v-if="schoolClass.isArchived">, a past class</template></p>
    </div>
    <slot />
    <n-button
      tag="a"
      :href="`/class/${schoolClass.id}/tasks`"
      @click.prevent="router.push({ name: 'tasks', params: { classId: schoolClass.id } })"
    >
      Tasks
    </n-button>
    <action-button name="Students" :icon="IconSchool" @click="areStudentsOpen = true" />
    <action-button name="Class page" :icon="IconUsers" @click="isPageOpen = true" />
    <action-button
      v-if="schoolClass.lessons.length > 0"
      name="Archive"
      title="Download its lessons as an archive"
      :icon="IconPackageExport"
      @click="store.archiveClass(schoolClass)"
    />
    <action-button name="Class details" :icon="IconPencil" @click="isOpen = true" />
  </header>
  <class-page-dialog v-if="isPageOpen" :school-class="schoolClass" @close="isPageOpen = false" />
  <students-dialog v-if="areStudentsOpen" :school-class="schoolClass" @close="areStudentsOpen = false" />
  <class-dialog v-if="isOpen" :school-class="schoolClass" @close="isOpen = false" />
</template>

<style scoped>
.class {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1.2rem;
  align-items: center;
  padding: 10px 16px 10px 10px;
  margin-bottom: 1rem;
  overflow: hidden;
  background: var(--paper);
  border-left: 8px solid var(--color);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.cover {
  width: 128px;
  height: 72px;
  object-fit: cover;
  object-position: top;
  border-radius: 8px;
}

.told {
  flex: 1 1 12rem;
  min-width: 0;
}

.name {
  display: flex;
  gap: 0.7rem;
  align-items: center;
  margin: 0;
  overflow-wrap: anywhere;
  font-size: 1.6rem;
}

.facts {
  margin: 0.15rem 0 0;
  color: var(--ink-soft);
}

@media (max-width: 640px) {
  .cover {
    width: 80px;
    height: 45px;
  }

  .name {
    font-size: 1.25rem;
  }
}
</style>
