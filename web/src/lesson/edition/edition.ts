import { NOTHING_EDITED, type Edition } from '@kite-trail/core/trail/edition';
import equal from 'fast-deep-equal';
import { shallowRef } from 'vue';
import { ofLesson } from '../lesson-scope';

/**
 * Where an edition comes from: an edit made here, or taken back or made again here; a take that has ended here; the school, which
 * says what was in force when the lesson was opened, or what has been done elsewhere.
 */
export type EditionFrom = 'edited' | 'undone' | 'redone' | 'recorded' | 'school';

/** What viewers get. All that changes it comes through `put`. */
export const useEdition = ofLesson(() => {
  const now = shallowRef<Edition>(NOTHING_EDITED);
  /** What this window can undo and redo by itself; what is older, the school knows. */
  const past = shallowRef<readonly Edition[]>([]);
  const future = shallowRef<readonly Edition[]>([]);

  /** Puts an edition in force. */
  function put(next: Edition, from: EditionFrom): void {
    const before = now.value;
    const fresh = from === 'school' ? sharing(next, before) : next;
    if (fresh === before) return;
    now.value = fresh;
    if (from === 'undone') {
      past.value = past.value.slice(0, -1);
      future.value = [...future.value, before];
    } else if (from === 'redone') {
      future.value = future.value.slice(0, -1);
      past.value = [...past.value, before];
    } else {
      // What comes from elsewhere, such as a new take, is a new beginning.
      past.value = from === 'edited' ? [...past.value, before] : [];
      future.value = [];
    }
  }

  return { now, past, future, put };
});

/** An edition with those parts of another one that are equal, so that what is playing goes on; that one where all are. */
function sharing(edition: Edition, other: Edition): Edition {
  const same = <K extends keyof Edition>(part: K): Edition[K] =>
    equal(edition[part], other[part]) ? other[part] : edition[part];
  const shared: Edition = {
    programme: same('programme'),
    inkEdits: same('inkEdits'),
    chapters: same('chapters'),
    captions: same('captions'),
    prompts: same('prompts'),
    sound: same('sound'),
  };
  return (Object.keys(shared) as (keyof Edition)[]).every((part) => shared[part] === other[part]) ? other : shared;
}
