<script setup lang="ts">
import { NButton } from 'naive-ui';
import { computed, onMounted } from 'vue';
import { useMails } from './mails';

/** What the teacher has to know of letters: those that wait for something, and those that will not be sent. */
const emit = defineEmits<{ open: [] }>();
const mails = useMails();
onMounted(mails.load);

const count = (n: number) => (n === 1 ? '1 letter' : `${n} letters`);
const words = computed(() => {
  const held = mails.waiting.filter(({ why }) => why !== null).length;
  const refused = mails.refused.length;
  return [held > 0 ? `${count(held)} still waiting` : '', refused > 0 ? `${count(refused)} not sent` : '']
    .filter(Boolean)
    .join(', ');
});
</script>

<template>
  <n-button v-if="words" text class="told" @click="emit('open')">{{ words }}. See why</n-button>
</template>

<style scoped>
.told {
  justify-self: start;
  color: var(--kite-deep);
}
</style>
