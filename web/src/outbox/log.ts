import { openDB, type IDBPDatabase } from 'idb';
import type { Entry, EntryKey, Owed } from './entry';
import { upgrade, type OutboxSchema } from './upgrade';

const OPENED_WITHIN_MS = 5000;

/** Another window holds on to what is kept on this device. */
export class HeldElsewhere extends Error {
  override readonly name = 'HeldElsewhere';

  constructor() {
    super(
      'An older window of Kite Trail holds on to what is kept on this device. Close it, then load this page again.',
    );
  }
}

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

  /**
   * Opens the log. A browser that has none, as in some private windows, gets one in memory.
   * @throws HeldElsewhere while a window of an earlier version holds on to it
   */
  static async open(): Promise<OutboxLog> {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const isHeld = new Promise<never>((_, reject) => {
      timer = setTimeout(() => reject(new HeldElsewhere()), OPENED_WITHIN_MS);
    });
    try {
      const log = new OutboxLog(null);
      // Later versions of this program may want to change it.
      const opened = openDB<OutboxSchema>(NAME, 3, { upgrade, blocking: () => log.close() });
      log.db = await Promise.race([opened, isHeld]);
      return log;
    } catch (error) {
      if (error instanceof HeldElsewhere) throw error;
      return new OutboxLog(null);
    } finally {
      clearTimeout(timer);
    }
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
  async takeOver(from: string, to: string, teacher: string, isSeen: boolean): Promise<Entry[]> {
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
