<script setup lang="ts">
import { NModal } from 'naive-ui';
import { LESSON_KEYS } from './lesson-keys';

const open = defineModel<boolean>('open', { required: true });
</script>

<template>
  <n-modal v-model:show="open" preset="card" title="Keyboard shortcuts" style="max-width: 30rem">
    <dl>
      <template v-for="one in LESSON_KEYS" :key="one.action">
        <dt>
          <kbd v-for="key in one.keys.split(' ')" :key="key">{{ key }}</kbd>
        </dt>
        <dd>{{ one.does }}</dd>
      </template>
    </dl>
  </n-modal>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 0.6rem 1.25rem;
  align-items: center;
  margin: 0;
}

dt {
  display: flex;
  gap: 4px;
}

dd {
  margin: 0;
}

kbd {
  padding: 0.15rem 0.5rem;
  font: inherit;
  background: var(--sail-deep);
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
