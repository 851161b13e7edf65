<script setup lang="ts">
import { NButton } from 'naive-ui';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { api, OWN_DATA_URL } from '../server/api';
import { useOutbox } from '../app/outbox';
import { useSession } from '../app/session';
import { EMAIL, NAME, NEW_PASSWORD, PASSWORD, type AccountField } from './account-fields';
import RadioField from '../controls/RadioField.vue';
import { useRoomLight } from '../device/room-light';
import AccountForm from './AccountForm.vue';
import AccountHead from './AccountHead.vue';
import SignInList from './SignInList.vue';
import DialogCard from '../controls/DialogCard.vue';

/** A teacher's own account: who they are, their password, where they are signed in, and what is theirs. */
const session = useSession();
const outbox = useOutbox();
const router = useRouter();

const room = useRoomLight();
const LIGHTS = [
  { value: 'system', label: 'As this device has it' },
  { value: 'bright', label: 'Bright' },
  { value: 'dark', label: 'Dark' },
] as const;
const PRESENT: AccountField = { ...PASSWORD, label: 'Present password' };
const CHOSEN: AccountField = { ...NEW_PASSWORD, key: 'newPassword', label: 'New password' };
const isDeleting = ref(false);
/** Counts password changes: each signs out all other devices. */
const changes = ref(0);

async function changePassword(passwords: { password: string; newPassword: string }) {
  await api.changePassword(passwords);
  changes.value++;
}

async function deleteAccount({ password }: { password: string }) {
  await api.deleteAccount(password);
  await outbox.forgetAll();
  // Whoever was the last teacher leaves a school that can be set up anew.
  await session.load().catch(() => session.end());
  await router.replace('/sign-in');
}
</script>

<template>
  <main v-if="session.teacher" class="account">
    <account-head title="Your account" />
    <div class="cards">
      <section class="card" aria-labelledby="you">
        <h2 id="you">You</h2>
        <account-form
          :fields="[NAME, EMAIL, PRESENT]"
          :initial="{ name: session.teacher.name, email: session.teacher.email }"
          label="Keep the changes"
          :action="session.change"
        >
          <template #done>Kept.</template>
        </account-form>
      </section>

      <section class="card" aria-labelledby="password">
        <h2 id="password">Password</h2>
        <account-form :fields="[PRESENT, CHOSEN]" label="Change the password" :action="changePassword">
          <template #done>Changed. All other devices are signed out.</template>
        </account-form>
      </section>

      <section class="card" aria-labelledby="room">
        <h2 id="room">Light in the room</h2>
        <p>The frame around the page, on this device. Paper keeps its colour.</p>
        <radio-field v-model="room.choice.value" label="Light in the room" :options="LIGHTS" is-column />
      </section>

      <section class="card" aria-labelledby="signed-in">
        <h2 id="signed-in">Signed in on</h2>
        <sign-in-list :key="changes" />
      </section>

      <section class="card" aria-labelledby="yours">
        <h2 id="yours">What is yours</h2>
        <p>All your lessons with their recordings, files and templates, in one ZIP of open formats.</p>
        <n-button tag="a" :href="OWN_DATA_URL" download size="large" block>Download it all</n-button>
        <hr />
        <p>
          If you leave for good, all of it can be deleted: lessons, recordings, and what students watch. Nobody can
          bring it back.
        </p>
        <n-button size="large" block @click="isDeleting = true">Delete this account…</n-button>
      </section>
    </div>

    <dialog-card v-model:show="isDeleting" title="Delete this account?" style="max-width: 28rem">
      <p>
        All lessons and recordings of {{ session.teacher.name }} go for good, also from this device. Links stop playing.
        What colleagues work on with you becomes theirs. Download what you want to keep first.
      </p>
      <account-form :fields="[PRESENT]" label="Delete all of it, for good" is-grave :action="deleteAccount" />
    </dialog-card>
  </main>
</template>

<style scoped>
.account {
  max-width: 64rem;
  padding: 0 1.5rem 4rem;
  margin: 0 auto;
}

.cards {
  columns: 2 24rem;
  column-gap: 1.5rem;
}

.card {
  margin-bottom: 1.5rem;
  break-inside: avoid;
  padding: 1.5rem 1.75rem 1.75rem;
  background: var(--paper);
  border-radius: 16px;
  box-shadow: var(--shadow);
}

h2 {
  margin: 0 0 1rem;
  font-size: 1.25rem;
}

p {
  margin: 0 0 1rem;
}

hr {
  margin: 1.5rem 0;
  border: 0;
  border-top: 1px solid var(--line);
}
</style>
