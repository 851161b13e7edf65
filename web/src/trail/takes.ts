import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { useTake as withTake } from '@kite-trail/core/trail/plan';
import { takesIn } from '@kite-trail/core/trail/programme';
import { computed } from 'vue';
import { api } from '../server/api';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { useNotices } from '../lesson/notices';
import { ofLesson } from '../lesson/lesson-scope';

/** A take as the list shows it. */
export interface ListedTake {
  id: TakeId;
  name: string;
  lengthSamples: number;
  startedAt: string;
  hasSound: boolean;
  /** It plays in the trail, whole or in part. */
  plays: boolean;
}

/** The list of a lesson's takes, and its bin. */
export const useTakes = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const problem = useNotices().place('problem');

  const all = computed(() => {
    const playing = takesIn(lesson.programme);
    const ended = (lesson.document?.takes ?? []).filter((take) => take.ended && take.lengthSamples > 0);
    return ended.map((take, i) => ({ ...take, name: take.name || `Take ${i + 1}`, plays: playing.has(take.id) }));
  });
  /** The newest first. */
  const listed = computed<ListedTake[]>(() => all.value.filter(({ isBinned }) => !isBinned).reverse());
  const binned = computed<ListedTake[]>(() => all.value.filter(({ isBinned }) => isBinned).reverse());

  /** Lets a take play in the place of what was done over with it, or instead of it; or else at the end. */
  async function use(id: TakeId): Promise<void> {
    await editing.play(withTake(lesson.programme, id, lesson.plannedTakes));
  }

  const rename = (id: TakeId, name: string) => change(api.nameTake(id, name));

  /** Puts a take into the bin; where it plays, it is taken out of the trail. */
  const bin = (id: TakeId) => changeTrail(() => api.binTake(id));
  /** Takes a take out of the bin. Where it played before, it plays again. */
  const putBack = (id: TakeId) => changeTrail(() => api.unbinTake(id));

  /** The school does both at once, on top of all edits so far. */
  async function changeTrail(ask: () => Promise<LessonDocument>): Promise<void> {
    await editing.arrived();
    await change(ask());
    lesson.layDesk();
  }

  async function change(answer: Promise<LessonDocument>): Promise<void> {
    await lesson.accept(await answer);
  }

  /** Tries something with a take. What went wrong is told also when the list has been closed meanwhile. */
  async function attempt(work: Promise<void>): Promise<void> {
    problem.value = null;
    try {
      await work;
    } catch (error) {
      problem.value = (error as Error).message;
    }
  }

  return { listed, binned, attempt, use, rename, bin, putBack };
});
