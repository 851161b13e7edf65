<script setup lang="ts">
import { IconTrash } from '@tabler/icons-vue';
import { NPopconfirm, NSkeleton } from 'naive-ui';
import { templatePictureUrl } from '../server/api';
import { useTemplates } from './templates';
import ProblemText from '../controls/ProblemText.vue';
import DialogCard from '../controls/DialogCard.vue';

/** Chooses the template that a new page starts from. */
const templates = useTemplates();
</script>

<template>
  <dialog-card v-model:show="templates.isChoosing" close-focusable class="template-chooser" title="Your page templates">
    <problem-text v-if="templates.problem">{{ templates.problem }}</problem-text>
    <div v-if="!templates.list && !templates.problem" class="grid" aria-label="Loading templates">
      <n-skeleton v-for="n in 3" :key="n" class="waiting" />
    </div>
    <p v-else-if="templates.list?.length === 0" class="empty">
      None yet. Prepare a page as you like it, then choose “Keep as a template” from its menu among the pages.
    </p>
    <ul v-else class="grid">
      <li v-for="one in templates.list" :key="one.id" class="template">
        <button class="start" :aria-label="`Start a page from ${one.name}`" @click="templates.start(one)">
          <img :src="templatePictureUrl(one.id)" alt="" loading="lazy" />
          <span>{{ one.name }}</span>
        </button>
        <n-popconfirm positive-text="Delete" negative-text="Keep" @positive-click="templates.drop(one)">
          <template #trigger>
            <button class="drop" :aria-label="`Delete ${one.name}`"><icon-trash :size="18" /></button>
          </template>
          Delete this template? Pages started from it stay.
        </n-popconfirm>
      </li>
    </ul>
  </dialog-card>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 14px;
  max-height: 62vh;
  padding: 2px;
  margin: 0;
  overflow-y: auto;
  list-style: none;
}

.waiting {
  height: 120px;
  border-radius: 8px;
}

.template {
  position: relative;
}

.start {
  display: grid;
  gap: 6px;
  width: 100%;
  padding: 6px;
  text-align: left;
  cursor: pointer;
  background: transparent;
  border: 2px solid var(--line);
  border-radius: var(--radius);
}

.start:hover {
  border-color: var(--straw);
}

.start img {
  width: 100%;
  aspect-ratio: 16 / 9;
  object-fit: contain;
  background: var(--sail-deep);
  border-radius: 6px;
}

.drop {
  position: absolute;
  right: 4px;
  bottom: 2px;
  display: grid;
  place-items: center;
  width: 36px;
  height: 36px;
  color: var(--ink-soft);
  cursor: pointer;
  background: transparent;
  border: 0;
}

.empty {
  max-width: 46ch;
  margin: 0;
  color: var(--ink-soft);
}
</style>

<style>
.template-chooser {
  width: min(680px, 94vw);
}
</style>
