import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import { ofLesson } from './lesson-scope';

/** How grave it is: what went wrong comes before what is good to know. */
type NoticeKind = 'problem' | 'news';

/** A place in the queue, with room for one message. */
interface Place {
  kind: NoticeKind;
  text: Ref<string | null>;
  /** How late it was told, among all. */
  since: Ref<number>;
  dismiss(): void;
}

/** What the teacher is told while a lesson is open: one thing at a time, the gravest first, and of equals the newest. */
export const useNotices = ofLesson(() => {
  const places = shallowRef<readonly Place[]>([]);
  let told = 0;

  /** Tells what somebody else keeps, until they are asked to dismiss it. */
  function add(kind: NoticeKind, text: Ref<string | null>, dismiss: () => void): void {
    const since = ref(0);
    watch(text, (now) => now !== null && (since.value = ++told), { immediate: true });
    places.value = [...places.value, { kind, text, since, dismiss }];
  }

  /** A place of one's own in the queue: what is put there is told until it is dismissed or taken away (`null`). */
  function place(kind: NoticeKind): Ref<string | null> {
    const text = ref<string | null>(null);
    add(kind, text, () => (text.value = null));
    return text;
  }

  /**
   * Tells something for as long as it is so. Once dismissed, it is not told again until it was otherwise in between.
   * @param stays it cannot be dismissed
   */
  function tellWhile(kind: NoticeKind, text: () => string | null, { stays = false } = {}): void {
    const dismissed = ref<string | null>(null);
    const seen = computed(() => (text() === dismissed.value ? null : text()));
    watch(text, (now) => now === null && (dismissed.value = null));
    add(kind, seen, () => !stays && (dismissed.value = text()));
  }

  const shown = computed(() => {
    const full = places.value.filter(({ text }) => text.value !== null);
    const problems = full.filter(({ kind }) => kind === 'problem');
    const [first] = (problems.length > 0 ? problems : full).sort((a, b) => b.since.value - a.since.value);
    return first ? { kind: first.kind, text: first.text.value! } : null;
  });

  /** Takes all away that can be. */
  const dismiss = (): void => places.value.forEach((one) => one.dismiss());

  return { shown, place, tellWhile, add, dismiss };
});
