<script setup lang="ts">
import { IconMaximize } from '@tabler/icons-vue';
import { computed, onScopeDispose, ref } from 'vue';
import { stayAwake } from '../device/stay-awake';
import CodeForm from './CodeForm.vue';
import { useFollowed, type Following } from './followed';
import FollowedPage from './FollowedPage.vue';

/** The page alone, as large as it can be; and how it stands where nothing comes. */
const { code } = defineProps<{ code: string }>();

const { state, problem, moment, wet, arrivals, images } = useFollowed(code);
const screen = ref<HTMLElement>();
// Whoever follows touches nothing for long.
onScopeDispose(stayAwake());

const SAID: Record<Following, string> = {
  begins: 'Looking for the page…',
  shown: '',
  waits: 'Your teacher is away from the page. It goes on here when they are back.',
  lost: 'There is no connection just now. It goes on here when it is back.',
  over: 'This page is not shown any more.',
  full: 'So many follow this page that there is no room for one more. Try again later.',
};
const said = computed(() => SAID[state.value] || (moment.value ? '' : 'The page comes in a moment.'));
</script>

<template>
  <code-form v-if="problem" :problem="problem" />
  <main v-else ref="screen" class="followed">
    <h1 class="visually-hidden">A live page</h1>
    <followed-page v-if="moment" :moment="moment" :wet="wet" :images="images()" :arrivals="arrivals" />
    <p v-if="said" class="said" :class="{ alone: !moment }" role="status">{{ said }}</p>
    <a v-if="state === 'over'" class="plain other" href="/live">Another code</a>
    <button
      v-else
      class="plain whole"
      aria-label="Whole screen"
      title="Whole screen"
      @click="screen?.requestFullscreen()"
    >
      <icon-maximize :size="22" stroke="1.75" />
    </button>
  </main>
</template>

<style scoped>
.followed {
  position: relative;
  display: flex;
  width: 100vw;
  height: 100dvh;
  background: var(--sail);
}

.said {
  position: absolute;
  bottom: 12px;
  left: 50%;
  max-width: calc(100vw - 8rem);
  padding: 0.6rem 1.1rem;
  margin: 0;
  text-align: center;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: var(--radius);
  box-shadow: var(--shadow);
  transform: translateX(-50%);
}

.alone {
  top: 40%;
  bottom: auto;
  font-size: 1.2rem;
  background: transparent;
  border: 0;
  box-shadow: none;
}

.followed :deep(.plain) {
  position: absolute;
  display: grid;
  place-items: center;
  min-width: 48px;
  min-height: 48px;
  font: inherit;
  color: inherit;
  text-decoration: none;
  cursor: pointer;
  background: var(--veil);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.whole {
  right: 12px;
  bottom: 12px;
}

.followed:fullscreen .whole {
  display: none;
}

.other {
  bottom: 76px;
  left: 50%;
  padding: 0 1.2rem;
  transform: translateX(-50%);
}
</style>
