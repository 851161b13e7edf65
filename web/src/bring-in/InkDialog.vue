<script setup lang="ts">
import { NButton } from 'naive-ui';
import DialogCard from '../controls/DialogCard.vue';
import { clockText } from '../look/time';
import { useBringIn } from './bring-in';

/** Asks what is to become of ink that tells when it was written. */
const bringIn = useBringIn();
</script>

<template>
  <dialog-card
    :show="bringIn.timed !== null"
    title="This ink tells when it was written"
    style="max-width: 32rem"
    :mask-closable="false"
    @close="bringIn.dismiss()"
    @esc="bringIn.dismiss()"
  >
    <p v-if="bringIn.timed" class="told">
      {{ bringIn.timed.file.name }} can be written again stroke by stroke, in
      {{ clockText(bringIn.timed.replay.lengthSamples) }}, as a recording at the end of this lesson: speak to it later.
      Pauses of more than ten seconds are made that long.
    </p>
    <template #footer>
      <n-button size="large" @click="bringIn.takeInk('place')">Put it on the page at once</n-button>
      <n-button size="large" type="primary" @click="bringIn.takeInk('replay')">Write it as it was written</n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.told {
  margin: 0;
}
</style>
