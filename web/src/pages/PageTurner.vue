<script setup lang="ts">
import { IconChevronLeft, IconChevronLeftPipe, IconChevronRight, IconChevronRightPipe } from '@tabler/icons-vue';
import { computed, ref, watch } from 'vue';

/** Goes to the first, last, next or previous page, or to one by its number. */
const props = defineProps<{ at: number; count: number }>();
const emit = defineEmits<{ go: [number: number] }>();

const typed = ref('');
const field = ref<HTMLInputElement>();
const atFirst = computed(() => props.at <= 1);
const atLast = computed(() => props.at >= props.count);

watch(
  () => props.at,
  (at) => (typed.value = String(at)),
  { immediate: true },
);

function go() {
  const number = Math.round(Number(typed.value));
  // Beyond the last page is the last one.
  if (typed.value.trim() !== '' && !Number.isNaN(number)) emit('go', Math.min(props.count, Math.max(1, number)));
  typed.value = String(props.at);
  field.value?.blur();
}
</script>

<template>
  <div class="turner" role="group" aria-label="Go to a page">
    <button class="go" aria-label="First page" :disabled="atFirst" @click="emit('go', 1)">
      <icon-chevron-left-pipe :size="19" />
    </button>
    <button class="go" aria-label="Page before" :disabled="atFirst" @click="emit('go', at - 1)">
      <icon-chevron-left :size="19" />
    </button>
    <form @submit.prevent="go">
      <input
        ref="field"
        v-model="typed"
        class="number"
        inputmode="numeric"
        :aria-label="`Page number, of ${count}`"
        @blur="typed = String(at)"
        @keydown.esc="field?.blur()"
      />
    </form>
    <button class="go" aria-label="Next page" :disabled="atLast" @click="emit('go', at + 1)">
      <icon-chevron-right :size="19" />
    </button>
    <button class="go" aria-label="Last page" :disabled="atLast" @click="emit('go', count)">
      <icon-chevron-right-pipe :size="19" />
    </button>
  </div>
</template>

<style scoped>
.turner {
  display: grid;
  grid-template-columns: 1fr 1fr 1.4fr 1fr 1fr;
  align-items: center;
}

.go {
  display: grid;
  place-items: center;
  min-height: 36px;
  padding: 0;
  color: var(--ink-soft);
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: 8px;
}

.go:hover:not(:disabled) {
  background: var(--sail-deep);
}

.go:disabled {
  opacity: 0.35;
}

.number {
  width: 100%;
  min-height: 32px;
  padding: 0;
  font: inherit;
  color: inherit;
  text-align: center;
  background: transparent;
  border: 1px solid var(--line);
  border-radius: 8px;
}

/* A phone held upright has the leaves themselves. */
@media (max-width: 640px) {
  .turner {
    display: none;
  }
}
</style>
