import { marking as markingSchema, type HandIn, type Marking, type MarkingTable } from '@kite-trail/core/contract/task';
import type { TaskId } from '@kite-trail/core/lesson/ids';
import { useDebounceFn } from '@vueuse/core';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { useAttempt } from '../controls/attempt';
import { useKeptJson } from '../device/kept-setting';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';
import { tasksApi } from '../server/tasks';
import { useNames } from '../tasks/names';
import { useSharing } from '../share/sharing';

const KEPT_AFTER_MS = 600;

/** The reply that is marked: whose it is, what it is given, who comes next. */
export const useMarking = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const sharing = useSharing();
  const table = shallowRef<MarkingTable | null>(null);
  /** Points and words as they are typed; `null` until they are known. */
  const marking = ref<Marking | null>(null);
  const isGiving = ref(false);
  const { problem, attempt } = useAttempt();

  const { called } = useNames();
  const rows = computed(() =>
    (table.value?.rows ?? [])
      .map((row, n) => ({ ...row, called: called(row.student.name, n) }))
      .filter(({ reply }) => reply?.handIn),
  );
  const place = computed(() => rows.value.findIndex(({ reply }) => reply?.handIn?.lesson === lesson.document?.id));
  const row = computed(() => rows.value[place.value] ?? null);
  const handIn = computed<HandIn | null>(() => row.value?.reply?.handIn ?? null);
  const before = computed(() => rows.value[place.value - 1] ?? null);
  const next = computed(() => rows.value[place.value + 1] ?? null);
  /** Something was said on it, beside what its student recorded. */
  const isSpoken = computed(
    () =>
      handIn.value !== null &&
      (lesson.document?.takes ?? []).some(({ startedAt }) => startedAt > handIn.value!.handedAt),
  );

  const open = (task: TaskId) =>
    attempt(async () => {
      table.value = await tasksApi.table(task);
      if (!handIn.value) return;
      const { id, points, note } = handIn.value;
      if (unsent.value) {
        marking.value = unsent.value;
        typed();
      } else marking.value ??= { points, note };
      await tasksApi.open(id);
    });

  /** What is typed, until the school has it: whoever loses the network, or the window, finds it here again. */
  const unsent = useKeptJson<Marking | null>(
    () => `kite-trail-marking-${handIn.value?.id ?? 'none'}`,
    markingSchema.nullable(),
    null,
  );

  /** What is typed is kept a moment later, and at once when it is given back or left. */
  let isKept = true;
  async function keep(): Promise<void> {
    if (isKept || !handIn.value || !marking.value) return;
    isKept = true;
    const { id } = handIn.value;
    const now = toSend(marking.value);
    if (!(await attempt(() => tasksApi.mark(id, now)))) isKept = false;
    // What was typed meanwhile is still to come.
    else if (isKept) unsent.value = null;
  }
  const keepSoon = useDebounceFn(keep, KEPT_AFTER_MS);
  function typed(): void {
    isKept = false;
    unsent.value = marking.value && toSend(marking.value);
    void keepSoon();
  }
  onScopeDispose(() => void keep());

  /** Gives it back with all that is written and spoken on it. */
  async function giveBack(): Promise<void> {
    isGiving.value = true;
    await attempt(async () => {
      await keep();
      if (problem.value) return;
      await Promise.all([lesson.save(), editing.arrived()]);
      // What was spoken is heard by a link that is this student’s alone.
      if (isSpoken.value) {
        await sharing.share();
        if (sharing.problem) throw new Error(sharing.problem);
      }
      await tasksApi.giveBack(handIn.value!.id);
      table.value = await tasksApi.table(table.value!.task.id);
    });
    isGiving.value = false;
  }

  return { table, row, handIn, before, next, marking, isGiving, problem, open, typed, giveBack };
});

/** A field for points that was emptied has none. */
const toSend = ({ points, note }: Marking): Marking => ({
  points: points.map((one) => (typeof one === 'number' ? one : null)),
  note,
});
