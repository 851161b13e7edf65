<script setup lang="ts">
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Link } from '@kite-trail/core/lesson/piece';
import { NButton, NInput } from 'naive-ui';
import { computed, ref } from 'vue';
import { z } from 'zod';
import { useDesk } from '../../lesson/desk';
import { useSelection } from './selection';
import ProblemText from '../../controls/ProblemText.vue';
import SelectField from '../../controls/SelectField.vue';

/** Leads viewers who touch what is held to a web address, or to another page. */
const selection = useSelection();
const desk = useDesk();

const link = computed<Link | null>(() => selection.pieces.find((one) => one.link)?.link ?? null);
const address = ref(link.value?.to === 'web' ? link.value.url : '');
const problem = ref('');
const pages = computed(() => desk.scene?.pages.map(({ page }) => page.id) ?? []);
const choices = computed(() => [
  { value: '', label: 'None' },
  ...pages.value.map((value, n) => ({ value, label: `Page ${n + 1}` })),
]);

function toWeb() {
  const written = address.value.trim();
  const parsed = z.httpUrl().safeParse(/^[a-z]+:/i.test(written) ? written : `https://${written}`);
  problem.value = parsed.success ? '' : 'This is not a web address. It looks like www.harbour.example.';
  if (parsed.success) selection.link({ to: 'web', url: parsed.data });
}

const toPage = (page: string) => selection.link(page ? { to: 'page', page: page as PageId } : null);
</script>

<template>
  <section class="panel" aria-label="Link">
    <form class="row" @submit.prevent="toWeb">
      <label for="link-address">To a web address</label>
      <n-input v-model:value="address" :input-props="{ id: 'link-address', inputmode: 'url' }" />
      <n-button attr-type="submit" :disabled="address.trim() === ''">Set</n-button>
    </form>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <div class="row">
      <span>To a page</span>
      <select-field
        label="To a page"
        :options="choices"
        :model-value="link?.to === 'page' ? link.page : ''"
        @update:model-value="toPage"
      />
    </div>
    <p v-if="link" class="note">
      Viewers who touch it are led to {{ link.to === 'web' ? link.url : `page ${pages.indexOf(link.page) + 1}` }}.
      <n-button text type="primary" @click="selection.link(null)">Take the link away</n-button>
    </p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 12px;
  width: min(420px, 86vw);
}

.row {
  display: grid;
  grid-template-columns: 8rem 1fr auto;
  gap: 8px;
  align-items: center;
}

.note {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
