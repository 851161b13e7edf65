import { editedFrom, edition, type EditedFrom } from '@kite-trail/core/contract/edition';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Edition } from '@kite-trail/core/trail/edition';
import { z } from 'zod';

const leftEdit = z.object({ from: editedFrom, edition });
interface LeftEdit {
  from: EditedFrom;
  edition: Edition;
}

const keyOf = (lesson: LessonId) => `kite-trail-edit-${lesson}`;

/** The newest edit of a lesson that the server has not got, so that a closed tab loses nothing. */
export const leftEdits = {
  keep(lesson: LessonId, left: LeftEdit): void {
    try {
      localStorage.setItem(keyOf(lesson), JSON.stringify(left));
    } catch {
      // A device without room still has the edit on screen, and leaving asks first.
    }
  },

  forget(lesson: LessonId): void {
    localStorage.removeItem(keyOf(lesson));
  },

  find(lesson: LessonId): LeftEdit | null {
    const kept = localStorage.getItem(keyOf(lesson));
    if (kept === null) return null;
    const read = leftEdit.safeParse(JSON.parse(kept));
    return read.success ? read.data : null;
  },
};
