<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { ClassId } from '@kite-trail/core/lesson/ids';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, ref } from 'vue';
import DialogCard from '../controls/DialogCard.vue';
import ClassPennant from './classes/ClassPennant.vue';
import { useLessons } from './lessons';

/** Chooses the class that lessons go to. */
const { count, from } = defineProps<{ count: number; from: SchoolClass | null }>();
const emit = defineEmits<{ close: []; move: [to: ClassId | null, stays: boolean] }>();

const store = useLessons();
const stays = ref(false);
const others = computed(() => store.taught.filter(({ id }) => id !== from?.id));
const name = computed(() => (count === 1 ? 'the lesson' : `${count} lessons`));
</script>

<template>
  <dialog-card :show="true" :title="`Put ${name} into a class`" style="max-width: 26rem" @update:show="emit('close')">
    <ul class="list">
      <li v-for="one in others" :key="one.id">
        <n-button quaternary block class="class" @click="emit('move', one.id, stays)">
          <class-pennant :color="one.color" /> <span class="name" dir="auto">{{ one.name }}</span>
        </n-button>
      </li>
    </ul>
    <p v-if="others.length === 0">There is no other class yet. Make one beside the lessons.</p>
    <n-checkbox v-if="from && others.length > 0" v-model:checked="stays">It stays in {{ from.name }}, too</n-checkbox>
  </dialog-card>
</template>

<style scoped>
.list {
  padding: 0;
  margin: 0 0 0.75rem;
  list-style: none;
}

.class {
  height: 44px;
  justify-content: flex-start;
}

.name {
  margin-left: 0.7rem;
  font-size: 1rem;
}
</style>
