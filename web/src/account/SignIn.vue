<script setup lang="ts">
import { useRouter } from 'vue-router';
import { useSession } from '../app/session';
import { EMAIL, NAME, NEW_PASSWORD, PASSWORD, type AccountField } from './account-fields';
import AccountForm from './AccountForm.vue';
import DoorScreen from './DoorScreen.vue';

const session = useSession();
const router = useRouter();

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
    <account-form key="sign-in" :fields="[EMAIL, PASSWORD]" label="Sign in" :action="signIn" />
  </door-screen>
</template>
