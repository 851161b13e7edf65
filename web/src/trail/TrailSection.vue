<script setup lang="ts">
import { useVoices } from '../lesson/voices';

/** The trail's place under the head, or that of what is there before anything is recorded. */
defineProps<{ size?: 'slim' | 'tall' }>();
const voices = useVoices();
</script>

<template>
  <section class="trail" :class="size" aria-label="Trail" :aria-busy="voices.isListening"><slot /></section>
</template>

<style scoped>
.trail {
  display: flex;
  gap: 1rem;
  align-items: center;
  height: 84px;
  /* In whole pixels, for what is drawn is blurred where it does not lie on them. */
  padding: 10px 1rem;
  background: var(--paper);
  border-block: 1px solid var(--line);
}

.slim {
  height: 58px;
}

.tall {
  height: 176px;
}

.slim > :first-child {
  flex: 1;
}

@media (max-width: 900px) {
  /* The trail that is edited gets a row of its own. */
  .tall {
    flex-wrap: wrap;
    height: auto;
  }
}

/* A phone held upright. */
@media (max-width: 640px) {
  .trail {
    gap: 0.5rem;
  }
}
</style>
