<script setup lang="ts">
import type { TeacherName } from '@kite-trail/core/contract/account';
import { NButton, NPopconfirm } from 'naive-ui';
import { computed } from 'vue';
import DialogCard from '../controls/DialogCard.vue';

/** Chooses the colleague whose the lessons become: that is sure only after a second touch, for it cannot be taken back. */
const { count, others } = defineProps<{ count: number; others: readonly TeacherName[] }>();
const emit = defineEmits<{ close: []; hand: [to: TeacherName] }>();

const name = computed(() => (count === 1 ? 'the lesson' : `${count} lessons`));
</script>

<template>
  <dialog-card :show="true" :title="`Hand over ${name}`" style="max-width: 28rem" @update:show="emit('close')">
    <p>
      With recordings, links and questions, {{ count === 1 ? 'it becomes' : 'they become' }} a colleague’s, and you no
      longer have {{ count === 1 ? 'it' : 'them' }}. Links go on.
    </p>
    <ul class="list">
      <li v-for="one in others" :key="one.id">
        <n-popconfirm positive-text="Hand over" negative-text="Cancel" @positive-click="emit('hand', one)">
          <template #trigger>
            <n-button quaternary block class="teacher">
              <span dir="auto">{{ one.name }}</span>
            </n-button>
          </template>
          This cannot be taken back: only {{ one.name }} could give {{ count === 1 ? 'it' : 'them' }} back to you.
        </n-popconfirm>
      </li>
    </ul>
    <template v-if="others.length === 0">
      <p>Nobody else teaches at this school yet. Whoever keeps it invites them.</p>
      <n-button @click="emit('close')">Close</n-button>
    </template>
  </dialog-card>
</template>

<style scoped src="./teacher-list.css"></style>
<style scoped>
.teacher {
  height: 44px;
  font-size: 1rem;
}
</style>
