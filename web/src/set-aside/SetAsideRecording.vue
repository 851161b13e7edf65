<script setup lang="ts">
import { NButton } from 'naive-ui';
import { shallowRef } from 'vue';
import { useAttempt } from '../controls/attempt';
import { useFilms } from '../lesson/films';
import { momentText } from '../look/time';
import MakingList from '../making/MakingList.vue';
import { useMakings } from '../making/makings';
import type { SetAside } from '../outbox/set-aside';
import { useAudition } from '../trail/audition';
import SetAsidePlayer from './SetAsidePlayer.vue';
import DialogCard from '../controls/DialogCard.vue';

/** A recording of the open lesson that the school does not have can be heard, and made a video of. */
const { item } = defineProps<{ item: SetAside }>();

const audition = useAudition();
const films = useFilms();
const makings = useMakings();
const { problem, attempt } = useAttempt();
/** What is played, over everything else. */
const played = shallowRef<Awaited<ReturnType<typeof audition.refused>>>(null);

const play = () => attempt(async () => void (played.value = await audition.refused(item)));
const makeVideo = () =>
  attempt(async () => {
    const found = await audition.refused(item);
    if (!found) return;
    await films.order({ of: item.id, title: `Recording ${momentText(item.atMs)}`, ...found });
  });
</script>

<template>
  <n-button @click="play">Hear it</n-button>
  <n-button @click="makeVideo">Make a video</n-button>
  <making-list class="whole" :list="makings.of(item.lesson, item.id)" />
  <p v-if="problem || films.problem" class="whole warned" role="alert">{{ problem || films.problem }}</p>
  <dialog-card
    :show="played !== null"
    title="A recording that was set aside"
    style="max-width: 44rem"
    @update:show="played = null"
  >
    <set-aside-player v-if="played" v-bind="played" />
  </dialog-card>
</template>

<style scoped>
.whole {
  flex-basis: 100%;
}

.warned {
  margin: 0;
  color: var(--kite-deep);
}
</style>
