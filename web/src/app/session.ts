import type {
  changeAccount,
  firstTeacher,
  joinSchool,
  resetPassword,
  Session,
} from '@kite-trail/core/contract/account';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { z } from 'zod';
import { api } from '../server/api';

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  /** Whether the teacher can be asked for something now: nothing asks for anything while they record. */
  const canBeAsked = ref(true);
  const session = shallowRef<Session | null>(null);
  const unreachable = ref(false);

  const known = computed(() => session.value !== null);
  const teacher = computed(() => session.value?.teacher ?? null);
  /** What teachers call the school's accounts by which they may sign in; `null` where there are none. */
  const schoolAccounts = computed(() => session.value?.schoolAccounts ?? null);
  const needsFirstTeacher = computed(() => session.value?.needsFirstTeacher ?? false);

  async function load(): Promise<void> {
    try {
      session.value = await api.session();
      unreachable.value = false;
    } catch {
      unreachable.value = true;
    }
  }

  async function signIn(credentials: { email: string; password: string }): Promise<void> {
    session.value = await api.signIn(credentials);
  }

  async function addFirstTeacher(account: z.input<typeof firstTeacher>): Promise<void> {
    session.value = await api.addFirstTeacher(account);
  }

  async function join(account: z.input<typeof joinSchool>): Promise<void> {
    session.value = await api.join(account);
  }

  async function reset(password: z.input<typeof resetPassword>): Promise<void> {
    session.value = await api.resetPassword(password);
  }

  async function change(account: z.input<typeof changeAccount>): Promise<void> {
    session.value = await api.changeAccount(account);
  }

  async function signOut(): Promise<void> {
    await api.signOut();
    session.value = { needsFirstTeacher: false, schoolAccounts: schoolAccounts.value, teacher: null };
  }

  return {
    canBeAsked,
    known,
    teacher,
    needsFirstTeacher,
    schoolAccounts,
    unreachable,
    load,
    signIn,
    addFirstTeacher,
    join,
    resetPassword: reset,
    change,
    signOut,
  };
});
