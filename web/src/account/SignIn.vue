<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../app/session';
import { EMAIL, NAME, NEW_PASSWORD, PASSWORD, type AccountField } from './account-fields';
import AccountForm from './AccountForm.vue';
import ProblemText from '../controls/ProblemText.vue';
import DoorScreen from './DoorScreen.vue';
import SchoolDoor from './SchoolDoor.vue';

const session = useSession();
const router = useRouter();
const route = useRoute();

/** Why somebody was not let in who came from the school's accounts. */
const REFUSED: Record<string, string> = {
  nobody: 'Nobody with this account teaches here. Ask whoever keeps the school to invite you.',
  'no-address': 'Your account tells no e-mail address that is verified. Ask whoever keeps the school.',
  'somebody-else': 'A teacher with this address signs in with another account. Ask whoever keeps the school.',
  'shut-out': 'You can no longer sign in here. Ask whoever keeps the school.',
  'no-such-ticket': 'This invitation was used already, or has run out. Ask for a new one.',
  'too-late': 'That took too long, or began in another window. Try again.',
  unreachable: 'The school’s accounts cannot be reached. Sign in with your password, or try again later.',
};
const refused = computed(() => {
  const { refused: code } = route.query;
  return code === undefined ? '' : (REFUSED[String(code)] ?? 'You were not signed in. Try again.');
});

const SET_UP: AccountField[] = [
  {
    key: 'code',
    label: 'Set-up code',
    autocomplete: 'one-time-code',
    hint: 'It is printed where the server was started.',
  },
  NAME,
  EMAIL,
  NEW_PASSWORD,
];

async function signIn(account: { email: string; password: string }) {
  await session.signIn(account);
  await router.replace('/');
}

async function setUp(account: Parameters<typeof session.addFirstTeacher>[0]) {
  await session.addFirstTeacher(account);
  await router.replace('/');
}
</script>

<template>
  <door-screen v-if="session.needsFirstTeacher" lead="Set up this school: you are its first teacher.">
    <account-form key="set-up" :fields="SET_UP" label="Set up and begin" :action="setUp" />
  </door-screen>
  <door-screen v-else lead="Write, speak, and send the explanation on.">
    <problem-text v-if="refused" class="refused">{{ refused }}</problem-text>
    <account-form key="sign-in" :fields="[EMAIL, PASSWORD]" label="Sign in" :action="signIn" />
    <school-door />
    <p class="follow"><a href="/live">Follow a live page with a code</a></p>
  </door-screen>
</template>

<style scoped>
.refused {
  margin-bottom: 1rem;
}

.follow {
  margin: 1.5rem 0 0;
  text-align: center;
}

.follow a {
  color: var(--ink-soft);
}
</style>
