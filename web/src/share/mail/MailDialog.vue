<script setup lang="ts">
import { IconMail, IconSend, IconX } from '@tabler/icons-vue';
import { useIntervalFn } from '@vueuse/core';
import { NButton } from 'naive-ui';
import { computed, onMounted, ref } from 'vue';
import { useAttempt } from '../../controls/attempt';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import TextField from '../../controls/TextField.vue';
import { useLesson } from '../../lesson/lesson';
import { watchUrl } from '../../server/api';
import { addressesIn, stateInWords } from './mail-words';
import { useMails } from './mails';

/** Sends a link to people by mail, and tells what became of each letter. */
const { token } = defineProps<{ token: string }>();
const emit = defineEmits<{ close: [] }>();

const ASKED_EVERY_MS = 2000;

const lesson = useLesson();
const mails = useMails();
const { problem, attempt } = useAttempt();
const isBusy = ref(false);
onMounted(mails.load);
// Whoever looks at letters on their way sees them arrive.
useIntervalFn(() => void (mails.waiting.length > 0 && mails.load()), ASKED_EVERY_MS);

const letters = computed(() => mails.letters.filter(({ link }) => link === token));
/** Without a mail server of the school, the teacher's own program writes the letter. */
const ownLetter = computed(() => {
  const said = { subject: lesson.document!.title, body: [mails.note, watchUrl(token)].filter(Boolean).join('\n\n') };
  const query = Object.entries(said).map(([key, value]) => `${key}=${encodeURIComponent(value)}`);
  return `mailto:${addressesIn(mails.to).map(encodeURIComponent).join(',')}?${query.join('&')}`;
});

async function send() {
  isBusy.value = true;
  await attempt(() => mails.send(token));
  isBusy.value = false;
}
</script>

<template>
  <dialog-card title="Send the link by mail" show style="width: min(640px, 96vw)" @update:show="emit('close')">
    <form class="letter" @submit.prevent="send">
      <text-field
        v-model="mails.to"
        label="To"
        :most="20000"
        :rows="2"
        placeholder="anna@school.example, ben@school.example"
      />
      <text-field v-model="mails.note" label="A few words" :most="1000" :rows="3" />
      <p class="note">Each gets a letter of their own, with the lesson’s name and the link. Answers come to you.</p>
      <problem-text v-if="problem">{{ problem }}</problem-text>
      <n-button
        v-if="mails.isSetUp !== false"
        class="send"
        size="large"
        type="primary"
        attr-type="submit"
        :disabled="isBusy || mails.to.trim() === ''"
      >
        <template #icon><icon-send /></template>Send
      </n-button>
      <template v-else>
        <p class="note">Your school has no mail server, so your own mail program sends it.</p>
        <n-button class="send" size="large" type="primary" tag="a" :href="ownLetter">
          <template #icon><icon-mail /></template>Open your mail program
        </n-button>
      </template>
    </form>
    <ul v-if="letters.length > 0" class="sent" aria-label="Letters">
      <li v-for="one in letters" :key="one.id" :class="one.state">
        <span class="to">{{ one.to }}</span>
        <span class="state">{{ stateInWords(one) }}</span>
        <n-button
          quaternary
          :aria-label="one.state === 'waiting' ? `Do not send to ${one.to}` : `Forget the letter to ${one.to}`"
          @click="attempt(() => mails.drop(one))"
        >
          <template #icon><icon-x :size="18" /></template>
        </n-button>
      </li>
    </ul>
  </dialog-card>
</template>

<style scoped>
.letter {
  display: grid;
  gap: 0.9rem;
}

.note {
  margin: 0;
  color: var(--ink-soft);
}

.send {
  justify-self: end;
}

.sent {
  padding: 0;
  margin: 1.2rem 0 0;
  list-style: none;
}

.sent li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 0.75rem;
  align-items: center;
  padding: 0.4rem 0;
  border-top: 1px solid var(--line);
}

.sent li > :last-child {
  grid-row: 1 / 3;
  grid-column: 2;
}

.to {
  overflow-wrap: anywhere;
}

.state {
  color: var(--ink-soft);
}

.refused .state {
  color: var(--kite-deep);
}
</style>
