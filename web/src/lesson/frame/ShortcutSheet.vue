<script setup lang="ts">
import { computed } from 'vue';
import { useKeys } from './keys';
import DialogCard from '../../controls/DialogCard.vue';

/** What keys do, each said once. */
const keys = useKeys();
const listed = computed(() => {
  const said = new Set<string>();
  return keys.all.filter(({ keys: name, does }) => !said.has(name + does) && said.add(name + does));
});
</script>

<template>
  <dialog-card v-model:show="keys.isSheetOpen" close-focusable title="Keyboard shortcuts" style="max-width: 30rem">
    <dl>
      <template v-for="one in listed" :key="one.keys + one.does">
        <dt>
          <kbd v-for="key in one.keys.split(' ')" :key="key">{{ key }}</kbd>
        </dt>
        <dd>{{ one.does }}</dd>
      </template>
    </dl>
  </dialog-card>
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
