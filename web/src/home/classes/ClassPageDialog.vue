<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { NButton } from 'naive-ui';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import SharedAddress from '../../controls/SharedAddress.vue';
import { classPageUrl } from '../../server/api';
import { useLessons } from '../lessons';

/** The page on which a class finds all that is shared with it. */
const { schoolClass } = defineProps<{ schoolClass: SchoolClass }>();
const emit = defineEmits<{ close: [] }>();
const store = useLessons();
</script>

<template>
  <dialog-card :show="true" title="Class page" style="max-width: 32rem" @update:show="emit('close')">
    <div class="page">
      <template v-if="schoolClass.pageToken">
        <p>
          Students of {{ schoolClass.name }} find here what you put on it, in the order of the class. Lessons come onto
          it under “Share”.
        </p>
        <shared-address :address="classPageUrl(schoolClass.pageToken)" label="Class page" :name="schoolClass.name" />
        <div class="ways">
          <n-button quaternary @click="store.renewClassPage(schoolClass.id)">Give it a new address</n-button>
          <n-button quaternary @click="store.closeClassPage(schoolClass.id)">Take the page away</n-button>
        </div>
      </template>
      <template v-else>
        <p>
          {{ schoolClass.name }} has no page. Whoever has its address sees all that you put on it, without an account.
        </p>
        <n-button type="primary" size="large" @click="store.renewClassPage(schoolClass.id)">Make a class page</n-button>
      </template>
      <problem-text v-if="store.problem">{{ store.problem }}</problem-text>
    </div>
  </dialog-card>
</template>

<style scoped>
.page {
  display: grid;
  gap: 0.8rem;
  justify-items: start;
}

p {
  margin: 0;
  color: var(--ink-soft);
}

.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
</style>
