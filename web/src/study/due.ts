import type { OwnTask } from '@kite-trail/core/contract/task';
import { momentText } from '../look/time';

/** When a task is to be handed in, in words; nothing where nobody said. */
export function dueText(task: OwnTask['task']): string {
  if (task === null) return '';
  if (task.isClosed) return task.isLive ? 'Your teacher has stopped it' : 'Closed: nothing can be handed in any more';
  if (task.dueAt === null) return '';
  const isOver = Date.parse(task.dueAt) < Date.now();
  return isOver ? `Was due ${momentText(task.dueAt)}: it counts as late` : `Due ${momentText(task.dueAt)}`;
}

/** The points given, and how many there are; `null` where none were given. */
export function pointsText(points: readonly (number | null)[], criteria: readonly { points: number }[]): string | null {
  if (criteria.length === 0 || points.every((one) => one === null)) return null;
  const given = points.reduce<number>((sum, one) => sum + (one ?? 0), 0);
  return `${given} of ${criteria.reduce((sum, one) => sum + one.points, 0)} points`;
}
