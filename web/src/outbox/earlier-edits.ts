import { editedFrom, edition } from '@kite-trail/core/contract/edition';
import { lessonId } from '@kite-trail/core/contract/primitives';
import { z } from 'zod';
import type { Outbox } from './outbox';

const PREFIX = 'kite-trail-edit-';
const keptEdit = z.object({ from: editedFrom, edition });

/** Takes into the outbox what version 2 kept in the local storage: the newest edit of each lesson. */
export async function takeInEarlierEdits(outbox: Outbox, storage: Storage): Promise<void> {
  const keys = Array.from({ length: storage.length }, (_, i) => storage.key(i)!);
  for (const key of keys.filter((one) => one.startsWith(PREFIX))) {
    const lesson = lessonId.safeParse(key.slice(PREFIX.length));
    const kept = keptEdit.safeParse(JSON.parse(storage.getItem(key)!));
    if (!lesson.success || !kept.success) continue;
    await outbox.add(lesson.data, { kind: 'edit', from: kept.data.from, payload: kept.data.edition });
    storage.removeItem(key);
  }
}
