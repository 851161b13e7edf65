import { openDB, type IDBPDatabase } from 'idb';
import type { Entry, EntryKey, Owed } from './entry';
import { upgrade, type OutboxSchema } from './upgrade';

const OPENED_WITHIN_MS = 5000;

/** An entry with its payload. */
export interface Kept {
  entry: Entry;
  payload: Owed['payload'];
}

const NAME = 'kite-trail-journal';

/**
 * The entries on this device, in IndexedDB. Where it has no room, they are kept in memory, and `onFull` is told: then the
 * school's copy is the only one that outlives the page.
 */
export class OutboxLog {
  onFull: () => void = () => {};
  private readonly inMemory = new Map<EntryKey, Kept>();

  private constructor(private db: IDBPDatabase<OutboxSchema> | null) {}

  /** Whether this device has ever kept anything, as far as the browser tells; to ask does not make a log. */
  static async exists(): Promise<boolean> {
    if (!globalThis.indexedDB?.databases) return true;
    return (await indexedDB.databases()).some(({ name }) => name === NAME);
  }

  /**
   * Opens the log. Where the browser has none, as in some private windows, or another window holds on to it, there is one in
   * memory; that is told when something is kept.
   */
  static async open(): Promise<OutboxLog> {
    const log = new OutboxLog(null);
    const made = new AbortController();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const isHeld = new Promise<null>((resolve) => (timer = setTimeout(() => resolve(null), OPENED_WITHIN_MS)));
    try {
      const opened = openDB<OutboxSchema>(NAME, 3, {
        upgrade: (db, from, to, writing) => {
          // A page that is left in the middle of it, and kept to go back to, would hold up all others.
          globalThis.addEventListener?.('pagehide', () => writing.abort(), { signal: made.signal });
          return upgrade(db, from, to, writing);
        },
        // Later versions of this program may want to change it.
        blocking: () => log.close(),
      });
      log.db = await Promise.race([opened, isHeld]);
      // It is of no use any more when it opens later.
      if (!log.db) void opened.then((late) => late.close()).catch(() => {});
    } catch {
      log.db = null;
    } finally {
      made.abort();
      clearTimeout(timer);
    }
    return log;
  }

  /** All entries, in their order. */
  async entries(): Promise<Entry[]> {
    const stored = (await this.db?.getAll('entries')) ?? [];
    const known = new Map(stored.map((entry) => [entry.key, entry]));
    for (const [key, { entry }] of this.inMemory) known.set(key, entry);
    return [...known.values()].sort((a, b) => a.order - b.order);
  }

  /** Keeps entries with their payloads, and forgets those in whose place they come, all at once. */
  async put(kept: readonly Kept[], gone: readonly EntryKey[] = []): Promise<void> {
    try {
      if (!this.db) throw new Error('This browser keeps nothing.');
      const writing = this.db.transaction(['entries', 'payloads'], 'readwrite');
      const [entries, payloads] = [writing.objectStore('entries'), writing.objectStore('payloads')];
      await Promise.all([
        ...kept.flatMap(({ entry, payload }) => [entries.put(entry), payloads.put(payload, entry.key)]),
        ...gone.flatMap((key) => [entries.delete(key), payloads.delete(key)]),
        writing.done,
      ]);
      for (const { entry } of kept) this.inMemory.delete(entry.key);
    } catch {
      for (const one of kept) this.inMemory.set(one.entry.key, { ...one });
      this.onFull();
    }
    for (const key of gone) this.inMemory.delete(key);
  }

  /** Keeps what has changed of entries that are there, whose payloads stay, and forgets others, all at once. */
  async apply(changed: readonly Entry[], gone: readonly EntryKey[]): Promise<void> {
    for (const key of gone) this.inMemory.delete(key);
    const stored: Entry[] = [];
    for (const entry of changed) {
      const kept = this.inMemory.get(entry.key);
      if (kept) kept.entry = entry;
      else stored.push(entry);
    }
    if (!this.db || stored.length + gone.length === 0) return;
    try {
      const writing = this.db.transaction(['entries', 'payloads'], 'readwrite');
      const [entries, payloads] = [writing.objectStore('entries'), writing.objectStore('payloads')];
      await Promise.all([
        ...stored.map((entry) => entries.put(entry)),
        ...gone.flatMap((key) => [entries.delete(key), payloads.delete(key)]),
        writing.done,
      ]);
    } catch {
      // What stays in the log is owed again at the next visit, and known again by its key.
      this.onFull();
    }
  }

  async payload(key: EntryKey): Promise<Owed['payload'] | undefined> {
    const kept = this.inMemory.get(key);
    return kept ? kept.payload : this.db?.get('payloads', key);
  }

  /**
   * Makes a window's entries another one's, and a teacher's.
   * @param isSeen the other window's view is made with them from the beginning
   * @returns those it took over, in their order
   */
  async inherit(from: string, to: string, teacher: string, isSeen: boolean): Promise<Entry[]> {
    if (!this.db) return [];
    const writing = this.db.transaction('entries', 'readwrite');
    const taken: Entry[] = [];
    for (const entry of await writing.store.getAll()) {
      const isTheirs = entry.teacher === null || entry.teacher === teacher;
      if (entry.window !== from || !isTheirs) continue;
      taken.push({ ...entry, window: to, teacher, isLeft: true, madeIn: isSeen ? to : entry.madeIn });
    }
    await Promise.all([...taken.map((entry) => writing.store.put(entry)), writing.done]);
    return taken.sort((a, b) => a.order - b.order);
  }

  close(): void {
    this.db?.close();
    this.db = null;
  }
}
