<script setup lang="ts">
import type { TeacherName } from '@kite-trail/core/contract/account';
import type { LessonSummary } from '@kite-trail/core/contract/lesson';
import type { Together } from '@kite-trail/core/contract/together';
import type { TeacherId } from '@kite-trail/core/lesson/ids';
import { NButton, NCheckbox, NPopconfirm } from 'naive-ui';
import { ref } from 'vue';
import DialogCard from '../controls/DialogCard.vue';

/** Who works on a lesson: chosen by its owner, seen by the others, who may leave it. */
const { lesson, now, others } = defineProps<{
  lesson: LessonSummary;
  now: Together;
  /** The school's other teachers. */
  others: readonly TeacherName[];
}>();
const emit = defineEmits<{ close: []; keep: [colleagues: TeacherId[]]; leave: [] }>();

const chosen = ref(new Set(now.colleagues.map(({ id }) => id)));
function choose(id: TeacherId, is: boolean) {
  if (is) chosen.value.add(id);
  else chosen.value.delete(id);
}
</script>

<template>
  <dialog-card :show="true" title="Work on it together" style="max-width: 28rem" @update:show="emit('close')">
    <template v-if="lesson.owner === null">
      <p>
        They write, record, trim and share it as you do: one records at a time, the others look on. Putting it away
        stays yours.
      </p>
      <ul class="list">
        <li v-for="one in others" :key="one.id">
          <n-checkbox size="large" :checked="chosen.has(one.id)" @update:checked="(is) => choose(one.id, is)">
            <span dir="auto">{{ one.name }}</span>
          </n-checkbox>
        </li>
      </ul>
      <p v-if="others.length === 0">Nobody else teaches at this school yet. Whoever keeps it invites them.</p>
      <div class="ends">
        <n-button size="large" @click="emit('close')">Cancel</n-button>
        <n-button v-if="others.length > 0" size="large" type="primary" @click="emit('keep', [...chosen])"
          >Keep</n-button
        >
      </div>
    </template>
    <template v-else>
      <p>
        It is <b dir="auto">{{ now.owner.name }}</b>’s. You may write, record, trim and share it.
      </p>
      <p v-if="now.colleagues.length > 1">
        Also at work: <span dir="auto">{{ lesson.colleagues.join(', ') }}</span>
      </p>
      <div class="ends">
        <n-popconfirm positive-text="Yes, leave it" negative-text="Cancel" @positive-click="emit('leave')">
          <template #trigger><n-button size="large">Leave it</n-button></template>
          All you made in it stays there. Only {{ now.owner.name }} can let you in again.
        </n-popconfirm>
        <n-button size="large" type="primary" @click="emit('close')">Close</n-button>
      </div>
    </template>
  </dialog-card>
</template>

<style scoped src="./teacher-list.css"></style>
<style scoped>
.list li {
  display: flex;
  align-items: center;
  min-height: 44px;
}

p {
  margin: 0 0 1rem;
}

.ends {
  display: flex;
  gap: 0.5rem;
  justify-content: flex-end;
  margin-top: 1rem;
}
</style>
