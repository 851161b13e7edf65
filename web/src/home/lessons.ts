import type { TeacherName } from '@kite-trail/core/contract/account';
import { MOST_ARCHIVED, TOO_MANY_ARCHIVED } from '@kite-trail/core/contract/archive';
import type { ClassAbout, SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonAbout, LessonSummary } from '@kite-trail/core/contract/lesson';
import type { Together } from '@kite-trail/core/contract/together';
import type { ClassId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { until } from '@vueuse/core';
import { useOutbox } from '../app/outbox';
import { useSession } from '../app/session';
import { saveUrl } from '../device/save-file';
import { api, archiveUrl, classArchiveUrl } from '../server/api';

/** What was done last, and how it is taken back. */
interface Done {
  text: string;
  undo: () => Promise<unknown>;
}

const counted = (lessons: readonly unknown[]) => (lessons.length === 1 ? '1 lesson' : `${lessons.length} lessons`);

/** All lessons and classes of whoever is signed in, and what is done with them; each time the school says how they stand then. */
export const useLessons = defineStore('lessons', () => {
  const lessons = ref<LessonSummary[] | null>(null);
  const classes = ref<SchoolClass[]>([]);
  const problem = ref('');
  const done = ref<Done | null>(null);
  const isDragging = ref(false);
  let asked = 0;
  // Whoever signs in next on this device sees nothing of what was somebody else's.
  const session = useSession();
  const outbox = useOutbox();
  watch(
    () => session.teacher?.id,
    () => {
      lessons.value = done.value = null;
      classes.value = [];
      problem.value = '';
    },
  );

  async function load(): Promise<void> {
    const now = ++asked;
    const whose = session.teacher?.id;
    const [all, taught] = await Promise.all([api.lessons(), api.classes()]);
    // What is laid out anew under a hand that drags would be taken out of it.
    await until(isDragging).toBe(false);
    // Of several answers the one counts that was asked for last, by whoever is still signed in.
    if (now !== asked || whose !== session.teacher?.id) return;
    lessons.value = all;
    classes.value = taught;
  }

  /** Does something, and sees how all stands then. @returns whether it was done */
  async function act(what: () => Promise<unknown>, told: Done | null = null): Promise<boolean> {
    problem.value = '';
    done.value = null;
    // What the school says to earlier questions is how all stood before this.
    asked++;
    let isDone = true;
    try {
      await what();
      done.value = told;
    } catch (error) {
      problem.value = (error as Error).message;
      isDone = false;
    }
    // What was refused may have been changed elsewhere.
    await load().catch((error: Error) => (problem.value ||= error.message));
    return isDone;
  }

  async function undo(): Promise<void> {
    const last = done.value;
    if (last) await act(last.undo);
  }

  const bin = (ids: readonly LessonId[]) =>
    act(() => api.binLessons(ids, true), {
      text: `${counted(ids)} went into the bin.`,
      undo: () => api.binLessons(ids, false),
    });

  /** The school's other teachers, or `null` where that is not to be known just now. */
  const others = (): Promise<TeacherName[] | null> => known(api.others());
  /** Who works on a lesson, or `null` as well. */
  const together = (id: LessonId): Promise<Together | null> => known(api.together(id));

  async function known<T>(asked: Promise<T>): Promise<T | null> {
    problem.value = '';
    return asked.catch((error: Error) => {
      problem.value = error.message;
      return null;
    });
  }

  const handOver = (ids: readonly LessonId[], to: TeacherId) =>
    act(async () => {
      // The school takes nothing more from whoever has given a lesson away.
      await outbox.allSent(ids);
      await api.handOver(ids, to);
    });

  /** Lets the browser save an archive of lessons, once all that was made of them here is at the school. */
  async function saveArchive(ids: readonly LessonId[], url: string): Promise<void> {
    problem.value = '';
    await outbox.allSent(ids).then(
      () => saveUrl(url),
      (error: Error) => (problem.value = error.message),
    );
  }

  async function archive(ids: readonly LessonId[]): Promise<void> {
    if (ids.length > MOST_ARCHIVED) problem.value = TOO_MANY_ARCHIVED;
    else await saveArchive(ids, archiveUrl(ids));
  }

  /** Leaves a colleague's lesson to them. */
  const leave = (id: LessonId) =>
    act(async () => {
      await outbox.allSent([id]);
      await api.leaveLesson(id);
    });

  const place = (ids: readonly LessonId[], from: ClassId | null, to: ClassId | null, before: LessonId | null = null) =>
    act(() => api.placeLessons({ lessons: [...ids], from, to, before }));

  /** The order of a class is seen at once: what is dragged stays where it was put. */
  async function order(within: ClassId, id: LessonId, before: LessonId | null): Promise<void> {
    classes.value = classes.value.map((one) => {
      if (one.id !== within) return one;
      const others = one.lessons.filter((lesson) => lesson !== id);
      const at = before === null ? others.length : others.indexOf(before);
      return { ...one, lessons: [...others.slice(0, at), id, ...others.slice(at)] };
    });
    await place([id], within, within, before);
  }

  async function orderClasses(ids: readonly ClassId[]): Promise<void> {
    classes.value = ids.flatMap((id) => classes.value.find((one) => one.id === id) ?? []);
    await act(() => api.orderClasses(ids));
  }

  return {
    lessons,
    classes,
    problem,
    done,
    /** A lesson or a class is in somebody's hand: what the school says meanwhile is shown when it is put down. */
    isDragging,
    taught: computed(() => classes.value.filter(({ isArchived }) => !isArchived)),
    past: computed(() => classes.value.filter(({ isArchived }) => isArchived)),
    load: () => act(async () => {}),
    undo,
    bin,
    unbin: (ids: readonly LessonId[]) => act(() => api.binLessons(ids, false)),
    /** For good. */
    drop: (ids: readonly LessonId[]) =>
      act(async () => {
        for (const id of ids) await api.dropLesson(id);
      }),
    favour: (ids: readonly LessonId[], is: boolean) => act(() => api.favour(ids, is)),
    duplicate: (id: LessonId) => act(() => api.duplicateLesson(id)),
    /** @returns the new lesson, or `null` where there is none */
    copyPages: async (id: LessonId): Promise<LessonId | null> => {
      let made: LessonId | null = null;
      await act(async () => (made = (await api.copyLesson(id)).id));
      return made;
    },
    others,
    together,
    handOver,
    workWith: (id: LessonId, colleagues: readonly TeacherId[]) => act(() => api.workWith(id, colleagues)),
    archive,
    archiveClass: ({ id, lessons: all }: SchoolClass) => saveArchive(all, classArchiveUrl(id)),
    leave,
    place,
    order,
    /** Says only what is other than it was: what somebody said elsewhere meanwhile stays. */
    say: ({ id, title: before, about: saidBefore }: LessonSummary, title: string, about: LessonAbout) =>
      act(async () => {
        if (title !== before) await api.renameLesson(id, title);
        if (JSON.stringify(about) !== JSON.stringify(saidBefore)) await api.sayAbout(id, about);
      }),
    makeClass: (about: Pick<ClassAbout, 'name' | 'color'>) => act(() => api.makeClass(about)),
    changeClass: (id: ClassId, about: ClassAbout) => act(() => api.changeClass(id, about)),
    renewClassPage: (id: ClassId) => act(() => api.renewClassPage(id)),
    closeClassPage: (id: ClassId) => act(() => api.closeClassPage(id)),
    dropClass: (id: ClassId) => act(() => api.dropClass(id)),
    orderClasses,
  };
});
