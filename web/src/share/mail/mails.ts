import { newMails, type Mail, type Mails } from '@kite-trail/core/contract/mail';
import { computed, ref, shallowRef } from 'vue';
import type { ZodError } from 'zod';
import { useLesson } from '../../lesson/lesson';
import { ofLesson } from '../../lesson/lesson-scope';
import { api } from '../../server/api';
import { addressesIn } from './mail-words';

/** The letters that were sent with the lesson's links, and what became of them. */
export const useMails = ofLesson(() => {
  const lesson = useLesson();
  /** `null` while it is not known. */
  const told = shallowRef<Mails | null>(null);

  /** What is being written, while its dialog is closed, too. */
  const to = ref('');
  const note = ref('');

  const letters = computed(() => told.value?.mails ?? []);
  const waiting = computed(() => letters.value.filter(({ state }) => state === 'waiting'));
  const refused = computed(() => letters.value.filter(({ state }) => state === 'refused'));
  const isSetUp = computed(() => told.value?.isSetUp ?? null);

  /** Where the school cannot be asked, what is known stays. */
  async function load(): Promise<void> {
    const known = await api.mails(lesson.document!.id).catch(() => null);
    if (known) told.value = known;
  }

  /** @throws Error where something is no address, and what the school says; what was written stays then */
  async function send(token: string): Promise<void> {
    const addresses = addressesIn(to.value);
    const asked = newMails.safeParse({ to: addresses, note: note.value });
    if (!asked.success) throw new Error(problemOf(asked.error, addresses));
    told.value = await api.sendMails(lesson.document!.id, token, asked.data);
    to.value = '';
  }

  async function drop({ id }: Mail): Promise<void> {
    told.value = await api.dropMail(lesson.document!.id, id);
  }

  return { to, note, letters, waiting, refused, isSetUp, load, send, drop };
});

/** The first thing that is wrong, with the address it is about. */
function problemOf({ issues: [{ path, message }] }: ZodError, addresses: readonly string[]): string {
  const [of, n] = path;
  return of === 'to' && typeof n === 'number' ? `“${addresses[n]}”: ${message}` : message;
}
