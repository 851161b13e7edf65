import { lessonName } from '@kite-trail/core/contract/lesson';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { useOutbox } from '../../app/outbox';
import { api } from '../../server/api';
import { useLesson } from '../lesson';
import { ofLesson } from '../lesson-scope';

/** What is done with the open lesson as a whole. */
export const useWholeLesson = ofLesson(() => {
  const lesson = useLesson();
  const outbox = useOutbox();

  /** Gives it another name. @returns why it cannot have that one, or `null` */
  async function rename(title: string): Promise<string | null> {
    const { id, title: before } = lesson.document!;
    const name = lessonName.safeParse({ title });
    if (!name.success) return name.error.issues[0].message;
    if (name.data.title === before) return null;
    const opened = await outbox.open();
    lesson.document = { ...lesson.document!, ...name.data };
    await opened.add(id, { kind: 'name', payload: name.data });
    return null;
  }

  /** Keeps what the school has of a take that broke off on a device that is not here. */
  async function keepBeginning(take: TakeId): Promise<void> {
    await lesson.accept(await api.keepBeginning(take));
    lesson.layDesk();
  }

  /** Takes it out of the bin. */
  async function unbin(): Promise<void> {
    await api.binLessons([lesson.document!.id], false);
    await lesson.refresh();
  }

  return { rename, keepBeginning, unbin };
});
