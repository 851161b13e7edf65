<script setup lang="ts">
import { NButton, NInput, NModal } from 'naive-ui';
import { ref, watch } from 'vue';
import { useTemplates } from './templates';

/** Asks what a page is to be called as a template. */
const templates = useTemplates();
const name = ref('');

watch(
  () => templates.keeping,
  () => (name.value = ''),
);
</script>

<template>
  <n-modal
    :show="templates.keeping !== null"
    preset="card"
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
      <p v-if="templates.problem" class="problem" role="alert">{{ templates.problem }}</p>
      <n-button type="primary" attr-type="submit" :disabled="name.trim() === ''">Keep it</n-button>
    </form>
  </n-modal>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
}

.problem {
  margin: 0;
  color: var(--kite-deep);
}
</style>

<style>
.template-name {
  width: min(420px, 94vw);
}
</style>
