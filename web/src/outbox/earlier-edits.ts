import { editedFrom, edition } from '@kite-trail/core/contract/edition';
import { checkedJson } from '@kite-trail/core/formats/bytes';
import { lessonId } from '@kite-trail/core/contract/primitives';
import { z } from 'zod';
import type { Outbox } from './outbox';

const PREFIX = 'kite-trail-edit-';
const keptEdit = z.object({ from: editedFrom, edition });

/** Takes into the outbox what version 2 kept in the local storage: the newest edit of each lesson. */
export async function takeInEarlierEdits(outbox: Outbox, storage: Storage): Promise<void> {
  const keys = Array.from({ length: storage.length }, (_, i) => storage.key(i)!);
  for (const key of keys.filter((one) => one.startsWith(PREFIX))) {
    try {
      const { from, edition: payload } = checkedJson(storage.getItem(key)!, keptEdit);
      await outbox.add(lessonId.parse(key.slice(PREFIX.length)), { kind: 'edit', from, payload });
      storage.removeItem(key);
    } catch {
      // What cannot be read stays as it is.
    }
  }
}
