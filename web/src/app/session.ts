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
import { ownWork } from '../server/own-work';
import { persistently } from '../server/persistently';

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  /** Whether the teacher can be asked for something now: nothing asks for anything while they record. */
  const canBeAsked = ref(true);
  const session = shallowRef<Session | null>(null);
  /** Why it is not known yet who is signed in: the school cannot be asked just now. */
  const waitsFor = ref<string | null>(null);
  let arriving: Promise<void> | null = null;

  const known = computed(() => session.value !== null);
  const teacher = computed(() => session.value?.teacher ?? null);
  /** Whoever has come in by a student's key. */
  const student = computed(() => session.value?.student ?? null);
  /** Whose what is made here is. */
  const person = computed(() => teacher.value ?? student.value);
  /** What teachers call the school's accounts by which they may sign in; `null` where there are none. */
  const schoolAccounts = computed(() => session.value?.schoolAccounts ?? null);
  const needsFirstTeacher = computed(() => session.value?.needsFirstTeacher ?? false);

  /** Asks who is signed in now. @throws Refused, Unreachable */
  async function load(): Promise<void> {
    session.value = await api.session();
  }

  /** Settles when it is known who is signed in, however long that takes. @throws Refused */
  async function arrives(): Promise<void> {
    if (known.value) return;
    arriving ??= persistently(load, (why) => (waitsFor.value = why)).finally(() => (arriving = null));
    await arriving;
  }

  /** Lets a student in. @throws Refused, Unreachable */
  async function comeIn(key: string): Promise<void> {
    const came = await ownWork.comeIn(key);
    session.value = { needsFirstTeacher: false, schoolAccounts: schoolAccounts.value, teacher: null, student: came };
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
    end();
  }

  /** Nobody is signed in any longer. */
  function end(): void {
    session.value = { needsFirstTeacher: false, schoolAccounts: schoolAccounts.value, teacher: null, student: null };
  }

  return {
    canBeAsked,
    known,
    teacher,
    student,
    person,
    needsFirstTeacher,
    schoolAccounts,
    waitsFor,
    load,
    arrives,
    comeIn,
    signIn,
    addFirstTeacher,
    join,
    resetPassword: reset,
    change,
    signOut,
    end,
  };
});
