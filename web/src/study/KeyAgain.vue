<script setup lang="ts">
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useOutbox } from '../app/outbox';
import { useSession } from '../app/session';
import DialogCard from '../controls/DialogCard.vue';

/** What a student has made waits on this device until they have come in again. */
const outbox = useOutbox();
const session = useSession();
const router = useRouter();
const isAsked = computed(
  () => outbox.status.waitsFor?.for === 'sign-in' && session.student !== null && session.canBeAsked,
);

async function comeInAgain() {
  session.end();
  await router.push({ name: 'sign-in' });
}
</script>

<template>
  <dialog-card :show="isAsked" title="Come in again" :closable="false" style="max-width: 28rem">
    <p>
      This device is not known here any more. What you made is kept on it: open your own link again, or write your key.
    </p>
    <template #footer>
      <n-button type="primary" size="large" @click="comeInAgain">Write my key</n-button>
    </template>
  </dialog-card>
</template>
