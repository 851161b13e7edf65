import { ALLOWED, type OwnTask } from '@kite-trail/core/contract/task';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { defineStore } from 'pinia';
import { ref, shallowRef, watch } from 'vue';
import { useOutbox } from '../app/outbox';
import { useSession } from '../app/session';
import type { Dress } from '../lesson/frame/dress';
import { ownWork } from '../server/own-work';
import { persistently } from '../server/persistently';

/** All a student has to do, has done, and got back; each time the school says how it stands then. */
export const useOwnTasks = defineStore('own-tasks', () => {
  const session = useSession();
  const outbox = useOutbox();
  /** `null` while it is not known. */
  const all = shallowRef<OwnTask[] | null>(null);
  const waitsFor = ref<string | null>(null);
  let asked = 0;

  // Whoever comes in next on this device sees nothing of what was somebody else's.
  watch(
    () => session.student?.id,
    () => (all.value = null),
  );

  /** @throws Refused */
  async function load(): Promise<void> {
    const now = ++asked;
    const whose = session.student?.id;
    await persistently(
      async () => {
        const told = await ownWork.tasks();
        if (now === asked && whose === session.student?.id) all.value = told;
      },
      (why) => (waitsFor.value = why),
      () => now === asked,
    );
  }

  /** Begins on a task, unless that has been done. @returns where it is worked on @throws Refused, Unreachable */
  async function begin({ task, reply }: OwnTask): Promise<LessonId> {
    if (reply) return reply.lesson;
    const begun = await ownWork.begin(task!.id);
    await load();
    return begun;
  }

  /** Begins an explanation nobody asked for. @throws Refused, Unreachable */
  async function explain(title: string): Promise<LessonId> {
    const begun = await ownWork.explain(title);
    await load();
    return begun;
  }

  outbox.onAnswer((entry) => {
    if (entry.head.kind === 'hand-in') void load().catch(() => {});
  });

  /** What is known of the work in a lesson. */
  const workIn = (lesson: LessonId): OwnTask | null => all.value?.find(({ reply }) => reply?.lesson === lesson) ?? null;

  return { all, waitsFor, load, begin, explain, workIn };
});

/** What a student works on wears a simpler dress; where nobody is to speak, there is nothing to record. */
export function dressFor(lesson: LessonId): Dress {
  const tasks = useOwnTasks();
  const allows = tasks.workIn(lesson)?.task?.allows ?? ALLOWED;
  const speaks = allows.includes('voice');
  return {
    wearer: 'student',
    steps: [
      { step: 'prepare', label: 'Write', route: 'prepare' },
      ...(speaks
        ? ([
            { step: 'record', label: 'Record', route: 'record' },
            { step: 'trim', label: 'Trim', route: 'trim' },
          ] as const)
        : []),
      { step: 'share', label: 'Hand in', route: 'hand-in' },
    ],
    allows,
    opensIn: speaks ? 'trim' : 'share',
  };
}
