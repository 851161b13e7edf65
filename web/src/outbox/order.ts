import { isStepOfEditing, takeOf, type Entry, type OwedKind } from './entry';

/** Files go beside all else, so that a large one holds up no recording. */
export type LaneName = 'files' | 'rest';
const laneOf = ({ head }: Entry): LaneName => (head.kind === 'file' ? 'files' : 'rest');

/**
 * The entry that goes next in a lane of a lesson: the first that is owed and ready, and for which all it needs is at the
 * school.
 * @param entries the lesson's, in their order
 */
export function nextToSend(
  entries: readonly Entry[],
  lane: LaneName,
  isReady: (entry: Entry) => boolean = () => true,
): Entry | null {
  const owed = entries.filter(({ state }) => state === 'owed');
  const isNext = (entry: Entry, i: number) =>
    laneOf(entry) === lane && isReady(entry) && !owed.slice(0, i).some((one) => needs(entry, one));
  return owed.find(isNext) ?? null;
}

/** Whether an entry must wait for an earlier one that is owed. What was set aside is waited for no longer. */
function needs(entry: Entry, earlier: Entry): boolean {
  const isSameTake = takeOf(entry) !== null && takeOf(entry) === takeOf(earlier);
  switch (entry.head.kind) {
    case 'file':
    case 'take':
      return false;
    case 'part':
      return isSameTake && earlier.head.kind === 'take';
    case 'profile':
      return isSameTake;
    case 'name':
      return earlier.head.kind === 'name';
    case 'end':
      return isSameTake || earlier.head.kind === 'file' || isInTurn(earlier);
    case 'changes':
    case 'hand-in':
      return earlier.head.kind === 'file' || isInTurn(earlier);
    case 'edit':
    case 'undo':
    case 'redo':
      return isInTurn(earlier);
  }
}

/** What each is made on top of those before it. */
const isInTurn = (entry: Entry): boolean => IN_TURN.includes(entry.head.kind) || isStepOfEditing(entry);

/** What is handed in is what was made before, and nothing of what comes after. */
const IN_TURN: readonly OwedKind[] = ['changes', 'end', 'hand-in'];
