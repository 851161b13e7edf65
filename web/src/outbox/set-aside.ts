import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { isStepOfEditing, takeOf, type Entry } from './entry';

/** What the school has refused, as a teacher sees it: a recording is one thing, and so are edits made on one another. */
export interface SetAside {
  id: string;
  kind: 'recording' | 'changes' | 'edit' | 'file' | 'name' | 'hand-in';
  lesson: LessonId;
  take: TakeId | null;
  /** A file's name. */
  name: string | null;
  /** In the school's words. */
  why: string;
  atMs: number;
  entries: readonly Entry[];
}

/** Gathers what was set aside. @param entries in their order */
export function gatherSetAside(entries: readonly Entry[]): SetAside[] {
  const gathered = new Map<string, SetAside>();
  for (const entry of entries) {
    if (entry.state !== 'set-aside') continue;
    const id = idOf(entry);
    const known = gathered.get(id);
    if (known) gathered.set(id, { ...known, entries: [...known.entries, entry] });
    else
      gathered.set(id, {
        id,
        ...whatIs(entry),
        lesson: entry.lesson,
        why: entry.why ?? '',
        atMs: entry.atMs,
        entries: [entry],
      });
  }
  return [...gathered.values()];
}

const idOf = (entry: Entry): string =>
  takeOf(entry) ?? (isStepOfEditing(entry) ? `edits of ${entry.lesson}` : entry.key);

function whatIs(entry: Entry): Pick<SetAside, 'kind' | 'take' | 'name'> {
  const { head } = entry;
  const take = takeOf(entry);
  if (take) return { kind: 'recording', take, name: null };
  if (head.kind === 'file') return { kind: 'file', take, name: head.name };
  if (head.kind === 'changes' || head.kind === 'name' || head.kind === 'hand-in')
    return { kind: head.kind, take, name: null };
  return { kind: 'edit', take, name: null };
}
