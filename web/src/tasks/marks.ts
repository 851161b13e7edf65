import type { HandIn, MarkingTable, Reply } from '@kite-trail/core/contract/task';

/** How it stands with a student’s reply. */
export type ReplyState = 'new' | 'opened' | 'given' | 'taken-back' | 'begun' | 'missing';

export function stateOf(reply: Reply | null): ReplyState {
  if (!reply) return 'missing';
  const { handIn, wasTakenBack } = reply;
  if (!handIn) return wasTakenBack ? 'taken-back' : 'begun';
  if (handIn.givenAt !== null && !handIn.isChanged) return 'given';
  return handIn.isOpened ? 'opened' : 'new';
}

/** The sum of the points given; `null` where none were. */
export const sumOf = ({ points }: Pick<HandIn, 'points'>): number | null =>
  points.every((one) => one === null) ? null : points.reduce<number>((sum, one) => sum + (one ?? 0), 0);

/** All marks as a table: a line a student, a column a criterion, and their sum. */
export function marksTable({ task, rows }: MarkingTable): (string | number | null)[][] {
  const most = task.criteria.reduce((sum, { points }) => sum + points, 0);
  const head = [
    'Name',
    'Handed in',
    'Late',
    ...task.criteria.map(({ name, points }) => `${name} (of ${points})`),
    `Sum (of ${most})`,
    'Note',
    'Given back',
    'Seen',
  ];
  const lines = rows.map(({ student, reply }) => {
    const handIn = reply?.handIn;
    if (!handIn) return [student.name, null, null, ...task.criteria.map(() => null), null, null, null, null];
    return [
      student.name,
      handIn.handedAt,
      handIn.isLate ? 'late' : null,
      ...handIn.points,
      sumOf(handIn),
      handIn.note,
      handIn.givenAt,
      handIn.seenAt,
    ];
  });
  return [head, ...lines];
}
