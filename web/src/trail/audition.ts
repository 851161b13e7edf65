import type { TakeId } from '@kite-trail/core/lesson/ids';
import { openingScene, runOf } from '@kite-trail/core/trail/plan';
import type { Programme } from '@kite-trail/core/trail/programme';
import { sceneBefore, Timeline } from '@kite-trail/core/trail/timeline';
import { flatten } from '@kite-trail/core/trail/trail';
import { computed, shallowRef } from 'vue';
import type { SetAside } from '../outbox/set-aside';
import { takeFrom } from '../outbox/take-parts';
import { useLesson } from '../lesson/lesson';
import { useOutbox } from '../app/outbox';
import { ofLesson } from '../lesson/lesson-scope';

/** What can be heard, and seen. */
interface Heard {
  name: string;
  programme: Programme;
  timeline: Timeline;
}

/** What is listened to in place of the trail: a take by itself, or the trail as it was before a part was done over. */
export const useAudition = ofLesson(() => {
  const lesson = useLesson();
  const outbox = useOutbox();
  const chosen = shallowRef<(Heard & { over: Programme }) | null>(null);
  // Once the trail has changed, it is the trail that is heard.
  const other = computed<Heard | null>(() => (chosen.value?.over === lesson.programme ? chosen.value : null));

  const programme = computed(() => other.value?.programme ?? lesson.programme);
  const timeline = computed(() => other.value?.timeline ?? lesson.timeline);

  const choose = (heard: Heard) => (chosen.value = { ...heard, over: lesson.programme });

  /** Lets another programme of the lesson be heard. */
  function hear(name: string, of: Programme): void {
    const { base, takes } = lesson.recorded!;
    choose({ name, programme: of, timeline: new Timeline(base, flatten(of, takes)) });
  }

  /** A take by itself, on the pages as it found them. */
  function alone(id: TakeId): { programme: Programme; timeline: Timeline } | null {
    const planned = lesson.plannedTakes.find((one) => one.id === id);
    if (!planned || !lesson.recorded) return null;
    const { base, takes } = lesson.recorded;
    const at = lesson.programme.findIndex((segment) => segment.take === id);
    const opening =
      at < 0
        ? openingScene(base, lesson.programme, takes, planned.plan)
        : sceneBefore(base, lesson.programme, at, takes);
    const run = runOf(planned);
    return { programme: run, timeline: new Timeline(opening, flatten(run, takes)) };
  }

  /** Lets a take be heard by itself. */
  function hearTake(name: string, id: TakeId): void {
    const found = alone(id);
    if (found) choose({ name, ...found });
  }

  /** A recording that the school has refused, as this device has it. */
  async function refused({
    take: id,
    entries,
  }: SetAside): Promise<{ programme: Programme; timeline: Timeline } | null> {
    const begun = entries.find(({ head }) => head.kind === 'take')?.head;
    if (!lesson.recorded || !id || begun?.kind !== 'take') return null;
    const { take, sound } = takeFrom(id, await (await outbox.open()).parts(id), false);
    lesson.hearTake(take, sound);
    const run = runOf({ id, lengthSamples: take.lengthSamples, plan: begun.plan });
    const { base, takes } = lesson.recorded;
    const opening = openingScene(base, lesson.programme, takes, begun.plan);
    return { programme: run, timeline: new Timeline(opening, flatten(run, takes)) };
  }

  function end(): void {
    chosen.value = null;
  }

  return { other, programme, timeline, alone, refused, hear, hearTake, end };
});
