import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import type { TakePlan } from '@kite-trail/core/trail/plan';
import type { DBSchema, IDBPDatabase, IDBPTransaction } from 'idb';
import { nanoid } from 'nanoid';
import type { Entry, EntryKey, Head, Owed } from './entry';

export interface OutboxSchema extends DBSchema {
  entries: { key: EntryKey; value: Entry };
  payloads: { key: EntryKey; value: Owed['payload'] };
}

/** What versions 1 and 2 kept, each kind in a store of its own. */
interface EarlierStores {
  takes: { id: TakeId; lesson: LessonId; hasSound: boolean; plan?: TakePlan; beganAtMs?: number; ended: boolean };
  parts: { take: TakeId; n: number; bytes: Uint8Array };
  files: { asset: string; lesson: LessonId; name: string; blob: Blob };
  changes: { window: string; lesson: LessonId; revision: number; marks: Uint8Array; history: Uint8Array };
}

/** What an earlier version kept belongs to no window that is still there. */
const EARLIER_WINDOW = 'an-earlier-version';

/** Makes the stores, and entries of what earlier versions kept. */
export async function upgrade(
  db: IDBPDatabase<OutboxSchema>,
  _from: number,
  _to: number | null,
  writing: IDBPTransaction<OutboxSchema, ('entries' | 'payloads')[], 'versionchange'>,
): Promise<void> {
  db.createObjectStore('entries', { keyPath: 'key' });
  db.createObjectStore('payloads');
  const earlier = [...db.objectStoreNames] as string[];
  const read = async <K extends keyof EarlierStores>(name: K): Promise<EarlierStores[K][]> =>
    earlier.includes(name) ? ((await writing.objectStore(name as never).getAll()) as EarlierStores[K][]) : [];
  const [takes, parts, files, changes] = [
    await read('takes'),
    await read('parts'),
    await read('files'),
    await read('changes'),
  ];
  let order = 0;
  const owe = (lesson: LessonId, head: Head, payload: Owed['payload'], window = EARLIER_WINDOW) => {
    const key = nanoid() as EntryKey;
    const said = { teacher: null, state: 'owed', why: null, atMs: Date.now() } as const;
    void writing
      .objectStore('entries')
      .put({ key, order: order++, lesson, window, madeIn: window, isLeft: true, head, ...said });
    void writing.objectStore('payloads').put(payload, key);
  };
  for (const { lesson, asset, name, blob } of files) owe(lesson, { kind: 'file', asset: asset as never, name }, blob);
  for (const one of changes) {
    const { lesson, revision, marks, history, window } = one;
    owe(lesson, { kind: 'changes', revision }, { marks, history }, window);
  }
  for (const take of [...takes].sort((a, b) => (a.beganAtMs ?? 0) - (b.beganAtMs ?? 0))) {
    const { id, lesson, hasSound, plan = { kind: 'carry-on' }, beganAtMs = 0, ended } = take;
    owe(lesson, { kind: 'take', take: id, hasSound, plan, beganAtMs }, null);
    const own = parts.filter((part) => part.take === id).sort((a, b) => a.n - b.n);
    for (const { n, bytes } of own) owe(lesson, { kind: 'part', take: id, n }, bytes);
    // One that broke off is ended when it is taken over, like any other.
    if (ended) owe(lesson, { kind: 'end', take: id, parts: own.length, recover: false, plan }, null);
  }
  for (const name of ['takes', 'parts', 'files', 'changes'])
    if (earlier.includes(name)) db.deleteObjectStore(name as never);
}
