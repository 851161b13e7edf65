import { takePlan } from '@kite-trail/core/contract/lesson';
import type { AssetId, LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import type { TakePlan } from '@kite-trail/core/trail/plan';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A take this device has not yet handed over whole. */
export interface JournalTake {
  id: TakeId;
  lesson: LessonId;
  hasSound: boolean;
  /** Where it is to play. */
  plan: TakePlan;
  /** When it was begun, in milliseconds since 1970: takes are handed over in the order they were made. */
  beganAtMs: number;
  /** Ended properly, not merely broken off. */
  ended: boolean;
}

/** A picture or PDF the server has not got yet. */
export interface JournalFile {
  asset: AssetId;
  lesson: LessonId;
  name: string;
  blob: Blob;
}

/** Changes to a lesson's pages that the server has not got yet, as one window made them. */
export interface JournalChanges {
  window: string;
  lesson: LessonId;
  /** The revision they were made from. */
  revision: number;
  /** In the bytes of `formats/marks-coding` and `formats/history-coding`. */
  marks: Uint8Array;
  history: Uint8Array;
}

const NAME = 'kite-trail-journal';

interface Schema extends DBSchema {
  takes: { key: TakeId; value: JournalTake };
  parts: { key: [TakeId, number]; value: { take: TakeId; n: number; bytes: Uint8Array } };
  files: { key: [LessonId, AssetId]; value: JournalFile };
  changes: { key: [LessonId, string]; value: JournalChanges };
}

/**
 * Keeps recordings on this device until the server has them. When the device has no room, parts are kept in memory, and
 * `onFull` is told: then the server's copy is the only one that outlives the page.
 */
export class Journal {
  onFull: () => void = () => {};
  private readonly inMemory = new Map<string, { take: TakeId; n: number; bytes: Uint8Array }>();

  private constructor(private readonly db: IDBPDatabase<Schema>) {}

  /** Whether this device has ever kept anything, as far as the browser tells; to ask does not make a journal. */
  static async exists(): Promise<boolean> {
    if (!indexedDB.databases) return true;
    return (await indexedDB.databases()).some(({ name }) => name === NAME);
  }

  static async open(): Promise<Journal> {
    const db = await openDB<Schema>(NAME, 2, {
      upgrade: (journal, from) => {
        if (from < 1) {
          journal.createObjectStore('takes', { keyPath: 'id' });
          journal.createObjectStore('parts', { keyPath: ['take', 'n'] });
        }
        if (from < 2) {
          journal.createObjectStore('files', { keyPath: ['lesson', 'asset'] });
          journal.createObjectStore('changes', { keyPath: ['lesson', 'window'] });
        }
      },
    });
    // Asks the browser not to clear the journal when the device runs short; it may say no.
    void navigator.storage?.persist?.();
    return new Journal(db);
  }

  async keepTake(take: JournalTake): Promise<void> {
    await this.db.put('takes', take);
  }

  /** Keeps a part. @returns whether it would outlive this page */
  async keepPart(take: TakeId, n: number, bytes: Uint8Array): Promise<boolean> {
    try {
      await this.db.put('parts', { take, n, bytes });
      return true;
    } catch {
      this.inMemory.set(`${take} ${n}`, { take, n, bytes });
      this.onFull();
      return false;
    }
  }

  /** The takes in the order they were begun. Those that older versions of this program kept all carry on at the end. */
  async takes(): Promise<JournalTake[]> {
    const older = { plan: { kind: 'carry-on' }, beganAtMs: 0 } as const;
    const takes = (await this.db.getAll('takes')).map((take): JournalTake => {
      const known = { ...older, ...take };
      return { ...known, plan: takePlan.parse(known.plan) };
    });
    return takes.sort((a, b) => a.beganAtMs - b.beganAtMs);
  }

  /** The take's parts in order. */
  async parts(take: TakeId): Promise<{ n: number; bytes: Uint8Array }[]> {
    const stored = await this.db.getAll('parts', partsOf(take));
    const extra = [...this.inMemory.values()].filter((part) => part.take === take);
    return [...stored, ...extra].sort((a, b) => a.n - b.n);
  }

  async part(take: TakeId, n: number): Promise<Uint8Array | undefined> {
    return this.inMemory.get(`${take} ${n}`)?.bytes ?? (await this.db.get('parts', [take, n]))?.bytes;
  }

  /** Keeps a file until the server has it; where there is no room, it goes by memory alone. */
  async keepFile(file: JournalFile): Promise<void> {
    await this.db.put('files', file).catch(() => this.onFull());
  }

  async files(lesson: LessonId): Promise<JournalFile[]> {
    return (await this.db.getAll('files')).filter((file) => file.lesson === lesson);
  }

  async forgetFile(lesson: LessonId, asset: AssetId): Promise<void> {
    await this.db.delete('files', [lesson, asset]);
  }

  /** Keeps a window's changes in the place of those it kept before. */
  async keepChanges(changes: JournalChanges): Promise<void> {
    await this.db.put('changes', changes).catch(() => this.onFull());
  }

  async changes(lesson: LessonId): Promise<JournalChanges[]> {
    return this.db.getAll('changes', IDBKeyRange.bound([lesson, ''], [lesson, '\uffff']));
  }

  async forgetChanges(lesson: LessonId, window: string): Promise<void> {
    await this.db.delete('changes', [lesson, window]);
  }

  /** Forgets a take that the server has whole. */
  async forget(take: TakeId): Promise<void> {
    await this.db.delete('parts', partsOf(take));
    await this.db.delete('takes', take);
    for (const [key, part] of this.inMemory) if (part.take === take) this.inMemory.delete(key);
  }
}

const partsOf = (take: TakeId) => IDBKeyRange.bound([take, 0], [take, Number.MAX_SAFE_INTEGER]);
