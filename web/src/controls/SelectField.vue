<script setup lang="ts" generic="T extends string | number">
import { IconChevronDown } from '@tabler/icons-vue';

/**
 * Chooses one of several by its name. The browser's own list: phones show it large, screen readers know it, and it can be chosen from by
 * keys; the component library's is none of these.
 */
interface Option {
  value: T;
  label: string;
}
const chosen = defineModel<T>({ required: true });
defineProps<{ label: string; options: readonly (Option | { group: string; options: readonly Option[] })[] }>();
</script>

<template>
  <span class="field">
    <select v-model="chosen" class="select" :aria-label="label">
      <template v-for="one in options" :key="'group' in one ? one.group : one.value">
        <optgroup v-if="'group' in one" :label="one.group">
          <option v-for="option in one.options" :key="option.value" :value="option.value">{{ option.label }}</option>
        </optgroup>
        <option v-else :value="one.value">{{ one.label }}</option>
      </template>
    </select>
    <icon-chevron-down class="sign" :size="18" aria-hidden="true" />
  </span>
</template>

<style scoped>
.field {
  position: relative;
  display: flex;
  min-width: 0;
}

.select {
  width: 100%;
  min-height: 44px;
  padding: 0 30px 0 12px;
  overflow: hidden;
  font: inherit;
  font-size: 0.95rem;
  color: inherit;
  text-overflow: ellipsis;
  appearance: none;
  cursor: pointer;
  background: var(--paper);
  border: 1px solid var(--field-line);
  border-radius: var(--radius);
}

.select:hover {
  border-color: var(--tail);
}

.sign {
  position: absolute;
  top: calc(50% - 9px);
  right: 8px;
  color: var(--ink-soft);
  pointer-events: none;
}
</style>
