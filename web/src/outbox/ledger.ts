import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { nanoid } from 'nanoid';
import { takeOf, type Entry, type EntryKey, type Head, type Owed } from './entry';
import type { Kept, OutboxLog } from './log';

/** This window's entries as they stand in memory and in the log, which change together. */
export class Ledger {
  onChange: () => void = () => {};
  /** An entry may be sent from now on, as far as it is concerned itself. */
  onReady: (entry: Entry) => void = () => {};
  /** Whose entries are made, and sent, now. */
  teacher: string | null = null;
  private readonly entries = new Map<EntryKey, Entry>();
  /** Entries that are not to be sent yet: still being written, or not complete. */
  private readonly held = new Map<EntryKey, number>();
  private lastOrder = 0;

  constructor(
    private readonly log: OutboxLog,
    readonly window: string,
  ) {}

  /** A new entry, which is in no log yet. What comes of a recording that was set aside is set aside with it. */
  newEntry(lesson: LessonId, head: Head): Entry {
    const take = takeOf({ head });
    const aside = take && this.ofTake(take).find(({ state }) => state === 'set-aside');
    return {
      key: nanoid() as EntryKey,
      order: this.nextOrder(),
      teacher: this.teacher,
      lesson,
      window: this.window,
      madeIn: this.window,
      isLeft: false,
      head,
      state: aside ? 'set-aside' : 'owed',
      why: aside ? aside.why : null,
      atMs: Date.now(),
    };
  }

  nextOrder(): number {
    this.lastOrder = Math.floor(this.lastOrder) + 1;
    return this.lastOrder;
  }

  /** Keeps entries in the place of others; none is ready before it is written. */
  async write(kept: readonly Kept[], gone: readonly Entry[] = []): Promise<void> {
    for (const { entry } of kept) {
      this.entries.set(entry.key, entry);
      this.hold(entry.key);
    }
    for (const { key } of gone) this.entries.delete(key);
    this.onChange();
    await this.log.put(
      kept,
      gone.map(({ key }) => key),
    );
    for (const { entry } of kept) this.release(entry.key);
  }

  /** Changes entries, whose payloads stay, and forgets others. */
  async change(changed: readonly Entry[], gone: readonly Entry[] = []): Promise<void> {
    for (const entry of changed) this.entries.set(entry.key, entry);
    for (const { key } of gone) this.entries.delete(key);
    await this.log.apply(
      changed,
      gone.map(({ key }) => key),
    );
    this.onChange();
  }

  async forgetAll(): Promise<void> {
    const known = [...(await this.log.entries()), ...this.entries.values()];
    await this.change(
      [],
      known.filter(({ teacher }) => teacher === this.teacher),
    );
  }

  hold(key: EntryKey): void {
    this.held.set(key, (this.held.get(key) ?? 0) + 1);
  }

  release(key: EntryKey): void {
    const holds = (this.held.get(key) ?? 0) - 1;
    if (holds > 0) this.held.set(key, holds);
    else this.held.delete(key);
    const entry = this.entries.get(key);
    if (entry && this.isReady(entry)) this.onReady(entry);
  }

  isReady = ({ key }: Entry): boolean => !this.held.has(key);

  get(key: EntryKey): Entry | undefined {
    return this.entries.get(key);
  }

  payload(key: EntryKey): Promise<Owed['payload'] | undefined> {
    return this.log.payload(key);
  }

  /** Entries with their payloads, but for those that this device can no longer read. */
  async read(entries: readonly Entry[]): Promise<Kept[]> {
    const read = entries.map(async (entry) => ({ entry, payload: await this.log.payload(entry.key) }));
    return (await Promise.all(read)).flatMap(({ entry, payload }) =>
      payload === undefined ? [] : [{ entry, payload }],
    );
  }

  /** In their order, as all that follow. */
  all(): Entry[] {
    return [...this.entries.values()].sort((a, b) => a.order - b.order);
  }

  theirs = (): Entry[] => this.all().filter(({ teacher }) => teacher === this.teacher);
  ofLesson = (lesson: LessonId): Entry[] => this.all().filter((entry) => entry.lesson === lesson);
  ofTake = (take: TakeId): Entry[] => this.all().filter((entry) => takeOf(entry) === take);

  /** The other windows that have entries in the log. New entries come after all that are there. */
  async otherWindows(): Promise<string[]> {
    const known = await this.log.entries();
    this.lastOrder = known.reduce((last, { order }) => Math.max(last, order), this.lastOrder);
    return [...new Set(known.map(({ window }) => window))].filter((window) => window !== this.window);
  }

  /** Makes what another window has left this one's. @param isSeen this window's view is made with it. @returns it */
  async inherit(from: string, teacher: string, isSeen: boolean): Promise<Entry[]> {
    const left = await this.log.inherit(from, this.window, teacher, isSeen);
    for (const entry of left) this.entries.set(entry.key, entry);
    return left;
  }
}
