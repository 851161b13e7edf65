import type { EditedFrom, EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Entry, Owed } from './entry';

/** The school's yes to an entry. */
export type Answer =
  | { to: 'changes'; revision: number; merged: boolean }
  | { to: 'end'; lesson: LessonDocument }
  | { to: 'step'; state: EditState }
  | { to: 'other' };

/** The school as the outbox knows it. Both throw `Refused` or `Unreachable`. */
export interface School {
  /** Hands an entry over; the same key is taken once, however often it comes. */
  send(entry: Entry, payload: Owed['payload']): Promise<Answer>;
  /** What a lesson's next changes and edits would be made from. */
  stands(lesson: LessonId): Promise<{ revision: number; edit: EditedFrom }>;
}
