import type { EditedFrom } from '@kite-trail/core/contract/edition';
import type { LessonName } from '@kite-trail/core/contract/lesson';
import type { HandingIn } from '@kite-trail/core/contract/task';
import type { AssetId, LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Edition } from '@kite-trail/core/trail/edition';
import type { TakePlan } from '@kite-trail/core/trail/plan';

/** With the encoder's own pages, marks and sound are in the outbox within a second. */
export const PART_EVERY_MS = 600;

/** Names an entry, and its request at the school: by it, a request that comes again is known. */
export type EntryKey = string & { readonly brand: 'EntryKey' };

/** What the school is owed. The payload is what may be large; it is read only when it is sent. */
export type Owed =
  | { kind: 'file'; asset: AssetId; name: string; payload: Blob }
  /** Marks made to the pages from a revision on, and what can be undone after them, in the bytes of `core/formats`. */
  | { kind: 'changes'; revision: number; payload: { marks: Uint8Array; history: Uint8Array } }
  /** A take that begins on the pages as a revision has them. */
  | {
      kind: 'take';
      take: TakeId;
      hasSound: boolean;
      plan: TakePlan;
      revision?: number;
      beganAtMs: number;
      payload: null;
    }
  | { kind: 'part'; take: TakeId; n: number; payload: Uint8Array }
  /** With `recover`, the take broke off: what there is of it is made do with. */
  | { kind: 'end'; take: TakeId; parts: number; recover: boolean; plan: TakePlan; payload: null }
  | { kind: 'profile'; take: TakeId; payload: Uint8Array }
  | { kind: 'name'; payload: LessonName }
  /** A student hands in all that was made of it before. */
  | { kind: 'hand-in'; payload: HandingIn }
  /** A step of editing from an edit, and the edition it leads to. */
  | { kind: 'edit' | 'undo' | 'redo'; from: EditedFrom; payload: Edition };

export type OwedKind = Owed['kind'];
export type OwedFile = Extract<Owed, { kind: 'file' }>;
export type PayloadOf<K extends OwedKind> = Extract<Owed, { kind: K }>['payload'];
type WithoutPayload<O> = O extends unknown ? Omit<O, 'payload'> : never;
/** What is known of an entry without reading its payload. */
export type Head = WithoutPayload<Owed>;

/**
 * `owed`: the school has not said yes yet. `sent`: it has, but the entry stays until the take it belongs to is whole there.
 * `set-aside`: it has refused.
 */
type EntryState = 'owed' | 'sent' | 'set-aside';

/** One thing this device owes the school. */
export interface Entry {
  key: EntryKey;
  /** Entries are owed in ascending order. */
  order: number;
  /** Whose it is; `null` for what an earlier version kept, which did not say. */
  teacher: string | null;
  lesson: LessonId;
  /** The window that sends it. */
  window: string;
  /** The window whose view it was made in; the school tells the other ones. */
  madeIn: string;
  /** A window that is gone has left it. */
  isLeft: boolean;
  head: Head;
  state: EntryState;
  /** Why it was set aside, in the school's words. */
  why: string | null;
  /** When it was made, or set aside, in milliseconds since 1970. */
  atMs: number;
}

/** The take an entry is part of, or `null`. */
export const takeOf = ({ head }: Pick<Entry, 'head'>): TakeId | null => ('take' in head ? head.take : null);

export const isStepOfEditing = (entry: Entry): boolean => 'from' in entry.head;
