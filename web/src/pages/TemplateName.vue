<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { ref, watch } from 'vue';
import { useTemplates } from './templates';
import ProblemText from '../controls/ProblemText.vue';
import DialogCard from '../controls/DialogCard.vue';

/** Asks what a page is to be called as a template. */
const templates = useTemplates();
const name = ref('');

watch(
  () => templates.keeping,
  () => (name.value = ''),
);
</script>

<template>
  <dialog-card
    :show="templates.keeping !== null"
    class="template-name"
    :title="templates.keeping ? `Page ${templates.keeping.number} as a template` : ''"
    @close="templates.keeping = null"
    @esc="templates.keeping = null"
    @mask-click="templates.keeping = null"
  >
    <form class="form" @submit.prevent="templates.keep(name)">
      <label for="template-name">Name of the template</label>
      <n-input
        v-model:value="name"
        placeholder="Such as: chart with a latitude scale"
        autofocus
        :input-props="{ id: 'template-name', maxlength: 80 }"
      />
      <problem-text v-if="templates.problem">{{ templates.problem }}</problem-text>
      <n-button type="primary" attr-type="submit" :disabled="name.trim() === ''">Keep it</n-button>
    </form>
  </dialog-card>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
}
</style>

<style>
.template-name {
  width: min(420px, 94vw);
}
</style>
