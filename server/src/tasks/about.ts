import { readForm } from '@kite-trail/core/contract/forms';
import type { TaskAbout } from '@kite-trail/core/contract/task';
import type { TaskRow } from '../database/rows';

/** What is said of a task. */
export const aboutOf = ({ about }: Pick<TaskRow, 'about'>): TaskAbout => readForm('task', about);

/** When nothing can be handed in any more, or `null`. */
export function overAt(task: TaskRow): string | null {
  const { dueAt, takesLate } = aboutOf(task);
  const ends = [task.closed_at, takesLate ? null : dueAt].filter((at) => at !== null);
  return ends.length === 0 ? null : ends.reduce((first, at) => (Date.parse(at) < Date.parse(first) ? at : first));
}
