<script setup lang="ts">
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { Placement } from '@kite-trail/core/paint/surface';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { computed } from 'vue';
import { linksOn } from './page-links';

/** What on the page leads somewhere: to the web, or to another page. */
const props = defineProps<{ moment: Moment; placement: Placement; pages: readonly PageId[] }>();
const emit = defineEmits<{ page: [number: number] }>();

const links = computed(() => linksOn(props.moment, props.placement));
const numberOf = (page: PageId) => props.pages.indexOf(page) + 1;
</script>

<template>
  <template v-for="one in links" :key="one.id">
    <a
      v-if="one.link.to === 'web'"
      class="link"
      :href="one.link.url"
      target="_blank"
      rel="noopener noreferrer"
      :style="one.style"
      :aria-label="one.link.url"
      :title="one.link.url"
      @click.stop
    ></a>
    <button
      v-else
      class="link"
      :style="one.style"
      :aria-label="`To page ${numberOf(one.link.page)}`"
      @click.stop="emit('page', numberOf(one.link.page))"
    ></button>
  </template>
</template>

<style scoped>
.link {
  position: absolute;
  padding: 0;
  cursor: pointer;
  background: rgb(18 119 111 / 7%);
  border: 0;
  border-bottom: 3px solid #12776f;
  border-radius: 4px;
}

.link:hover {
  background: rgb(18 119 111 / 16%);
}
</style>
