<script setup lang="ts">
import { IconFileTypePdf, IconPencil, IconPlayerPlay } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { ref } from 'vue';

/** Where there is no lesson yet: three ways to begin. */
const emit = defineEmits<{ blank: []; bring: [files: readonly File[]] }>();
const picker = ref<HTMLInputElement>();
</script>

<template>
  <div class="empty">
    <p class="lead">Write, talk, send.</p>
    <p>What you write and say is recorded together, and can be tidied up before anybody sees it.</p>
    <div class="ways">
      <n-button size="large" type="primary" @click="emit('blank')">
        <template #icon><icon-pencil /></template>Begin on a blank page
      </n-button>
      <n-button size="large" @click="picker?.click()">
        <template #icon><icon-file-type-pdf /></template>Begin with a PDF or picture
      </n-button>
      <n-button size="large" tag="a" href="/w/example" target="_blank">
        <template #icon><icon-player-play /></template>Watch a finished example
      </n-button>
    </div>
    <input
      ref="picker"
      class="visually-hidden"
      type="file"
      multiple
      accept="application/pdf,image/*"
      tabindex="-1"
      aria-label="A PDF or pictures"
      @change="emit('bring', [...(picker?.files ?? [])])"
    />
  </div>
</template>

<style scoped>
.empty {
  padding: 4rem 1rem;
  text-align: center;
  color: var(--ink-soft);
}

.lead {
  margin: 0;
  font-size: 1.6rem;
  font-weight: 650;
  color: var(--ink);
}

.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  justify-content: center;
  margin-top: 2rem;
}
</style>
