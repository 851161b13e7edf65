import type { Mail, Mails, NewMails } from '@kite-trail/core/contract/mail';
import { computed, shallowRef } from 'vue';
import { useLesson } from '../../lesson/lesson';
import { ofLesson } from '../../lesson/lesson-scope';
import { api } from '../../server/api';

/** The letters that were sent with the lesson's links, and what became of them. */
export const useMails = ofLesson(() => {
  const lesson = useLesson();
  /** `null` while it is not known. */
  const told = shallowRef<Mails | null>(null);

  const letters = computed(() => told.value?.mails ?? []);
  const waiting = computed(() => letters.value.filter(({ state }) => state === 'waiting'));
  const refused = computed(() => letters.value.filter(({ state }) => state === 'refused'));
  const isSetUp = computed(() => told.value?.isSetUp ?? null);

  /** Where the school cannot be asked, what is known stays. */
  async function load(): Promise<void> {
    const known = await api.mails(lesson.document!.id).catch(() => null);
    if (known) told.value = known;
  }

  async function send(token: string, asked: NewMails): Promise<void> {
    told.value = await api.sendMails(lesson.document!.id, token, asked);
  }

  async function drop({ id }: Mail): Promise<void> {
    told.value = await api.dropMail(lesson.document!.id, id);
  }

  return { letters, waiting, refused, isSetUp, load, send, drop };
});
