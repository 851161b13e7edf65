import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import type { SetAsideList } from '@kite-trail/core/contract/set-aside';
import type { TakePlan } from '@kite-trail/core/trail/plan';
import { isStepOfEditing, takeOf, type Entry, type EntryKey, type Head, type Owed, type OwedKind } from './entry';
import { Ledger } from './ledger';
import type { Kept, OutboxLog } from './log';
import type { WaitsFor } from './policy';
import type { Answer, School } from './school';
import { Sender } from './sender';
import { gatherSetAside, type SetAside } from './set-aside';
import type { WindowLocks } from './window-locks';

/** What is safe here, what waits and for what, what was set aside. */
export interface OutboxStatus {
  /** How many entries the school has not got yet, by lesson. */
  owed: ReadonlyMap<LessonId, number>;
  /** Takes that are here and not whole at the school. */
  takes: ReadonlySet<TakeId>;
  /** Files, and parts of recordings, the school has not got yet. */
  filesOwed: number;
  partsOwed: number;
  waitsFor: WaitsFor | null;
  setAside: readonly SetAside[];
}

/**
 * The one way from this device to the school: an ordered log of everything it is owed. An entry is written before it counts
 * as kept, is sent when what it needs is at the school, and goes only when the school has said yes. What it refuses is set
 * aside. Every window sends its own entries; those of a window that is gone are taken over by another.
 */
export class Outbox {
  onChange: () => void = () => {};
  private readonly ledger: Ledger;
  private readonly sender: Sender;
  private readonly watchers = new Set<() => void>();
  /** Nobody has been signed in yet, so nothing is shown. */
  private isNew = true;

  constructor(
    log: OutboxLog,
    private readonly school: School,
    private readonly locks: WindowLocks,
    random: () => number = Math.random,
  ) {
    this.ledger = new Ledger(log, locks.window);
    this.sender = new Sender(this.ledger, school, random);
    this.ledger.onChange = () => this.changed();
  }

  /** Is called at each yes of the school. */
  set onAnswer(handle: (entry: Entry, answer: Answer) => void) {
    this.sender.onAnswer = handle;
  }

  /** Is called when the school has refused an entry, which is set aside with what cannot be without it. */
  set onSetAside(handle: (entry: Entry, why: string) => void) {
    this.sender.onSetAside = handle;
  }

  /** A teacher is signed in: what is theirs is sent from now on, also what windows that are gone have left. */
  async signedIn(teacher: string): Promise<void> {
    this.ledger.teacher = teacher;
    const { isNew } = this;
    this.isNew = false;
    await this.inherit(isNew);
    this.retry();
  }

  signedOut(): void {
    this.ledger.teacher = null;
  }

  /**
   * Takes over what windows that are gone have left, and what the others leave when they go.
   * @param isSeen nothing has been shown yet: what is taken over will be part of what this window shows
   */
  async inherit(isSeen = false): Promise<void> {
    const { teacher } = this.ledger;
    if (teacher === null) return;
    const others = await this.ledger.otherWindows();
    await this.locks.inherit(others, (window, isAtOnce) => this.inheritFrom(window, teacher, isAtOnce && isSeen));
  }

  /** The window goes: nothing more is sent from here. */
  stop(): void {
    this.sender.stop();
  }

  /** Owes the school one thing more. @returns when it is kept here; it is sent meanwhile, unless it is held */
  async add(lesson: LessonId, owed: Owed, { isHeld = false, isLeft = false } = {}): Promise<EntryKey> {
    const { payload, ...head } = owed;
    const entry = { ...this.ledger.newEntry(lesson, head as Head), isLeft };
    if (isHeld) this.ledger.hold(entry.key);
    await this.ledger.write([{ entry, payload }]);
    return entry.key;
  }

  /** Puts something else in the place of an entry that is held. */
  async replace(key: EntryKey, { payload, ...head }: Owed): Promise<void> {
    const entry = this.ledger.get(key);
    if (entry) await this.ledger.write([{ entry: { ...entry, head: head as Head }, payload }]);
  }

  /** A held entry is complete, and may be sent. */
  release(key: EntryKey): void {
    this.ledger.release(key);
  }

  /** Where a take is to play becomes known only while it is recorded. */
  async plan(take: TakeId, plan: TakePlan): Promise<void> {
    const entry = this.ledger.ofTake(take).find(({ head }) => head.kind === 'take');
    if (entry) await this.ledger.change([{ ...entry, head: { ...entry.head, plan } as Head }]);
  }

  /** Forgets a take of which nothing was recorded. */
  async forget(take: TakeId): Promise<void> {
    await this.ledger.change([], this.ledger.ofTake(take));
  }

  /** Forgets all that is the teacher's, also what other windows have in the log. */
  forgetAll(): Promise<void> {
    return this.ledger.forgetAll();
  }

  isOwed(lesson: LessonId, isMeant: (entry: Entry) => boolean): boolean {
    return this.ledger.ofLesson(lesson).some((entry) => entry.state === 'owed' && isMeant(entry));
  }

  isSetAside(take: TakeId): boolean {
    return this.ledger.ofTake(take).some(({ state }) => state === 'set-aside');
  }

  /** A take's parts in their order, as far as they are here. */
  async parts(take: TakeId): Promise<Uint8Array[]> {
    const parts = this.ledger.ofTake(take).filter(({ head }) => head.kind === 'part');
    return (await this.ledger.read(parts)).flatMap(({ payload }) => (payload instanceof Uint8Array ? [payload] : []));
  }

  /** What the school is owed of a lesson still, in its order. */
  owedBy(lesson: LessonId): Promise<Kept[]> {
    return this.ledger.read(this.ledger.ofLesson(lesson).filter(({ state }) => state !== 'set-aside'));
  }

  /** Tries at once what waits: the network is back, or somebody signed in. */
  retry(): void {
    this.sender.retry();
  }

  /** Settles when the school has all of a lesson's entries that it will take, or they wait for something else. */
  async settled(lesson: LessonId, isMeant: (entry: Entry) => boolean = () => true): Promise<void> {
    const isWaiting = () => this.ledger.teacher === null || this.sender.waitsFor(lesson) !== null;
    while (this.isOwed(lesson, isMeant) && !isWaiting())
      await new Promise<void>((resolve) => this.watchers.add(resolve));
  }

  /** Tries again what was set aside, on top of how the lesson stands now. @throws Refused, Unreachable */
  async tryAgain(aside: SetAside): Promise<void> {
    const { revision, edit } = await this.school.stands(aside.lesson);
    // Of edits made on one another, the last is what the teacher saw.
    const steps = aside.entries.filter(isStepOfEditing);
    const [again, gone] = [aside.entries.filter((entry) => !steps.includes(entry)), steps.slice(0, -1)];
    const renewed = [...again, ...steps.slice(-1)].map((entry): Entry => {
      const { head } = entry;
      const renewedHead: Head =
        head.kind === 'changes' ? { ...head, revision } : 'from' in head ? { kind: 'edit', from: edit } : head;
      return { ...entry, order: this.ledger.nextOrder(), head: renewedHead, state: 'owed', why: null };
    });
    await this.ledger.change(renewed, gone);
    this.sender.work(aside.lesson);
  }

  /** All that belongs to what was set aside, with payloads. */
  readAside = ({ entries }: SetAside): Promise<Kept[]> => this.ledger.read(entries);

  /**
   * Takes in what was set aside and saved to a file, here or on another device; what is here already stays as it is.
   * @returns what is set aside now of it
   */
  async bringBack({ lesson, why, entries }: SetAsideList, owed: readonly Owed[]): Promise<SetAside[]> {
    const brought = entries.flatMap(({ key, head, atMs }, i): Kept[] => {
      if (this.ledger.get(key as EntryKey)) return [];
      const entry = this.ledger.newEntry(lesson, head as Head);
      const aside = { key: key as EntryKey, state: 'set-aside', why, atMs } as const;
      return [{ entry: { ...entry, ...aside }, payload: owed[i].payload }];
    });
    await this.ledger.write(brought);
    const keys = new Set<string>(entries.map(({ key }) => key));
    return this.status().setAside.filter((one) => one.entries.some(({ key }) => keys.has(key)));
  }

  /** Gives up what was set aside, as the teacher wishes. */
  async discard(aside: SetAside): Promise<void> {
    await this.ledger.change([], aside.entries);
  }

  /** How it stands with what is the teacher's who is signed in. */
  status(): OutboxStatus {
    const theirs = this.ledger.theirs();
    const owed = new Map<LessonId, number>();
    for (const { lesson, state } of theirs) if (state === 'owed') owed.set(lesson, (owed.get(lesson) ?? 0) + 1);
    const countOf = (kind: OwedKind) =>
      theirs.filter(({ head, state }) => head.kind === kind && state === 'owed').length;
    return {
      owed,
      takes: new Set(theirs.flatMap((entry) => takeOf(entry) ?? [])),
      filesOwed: countOf('file'),
      partsOwed: countOf('part'),
      waitsFor: this.sender.waitsFor(),
      setAside: gatherSetAside(theirs),
    };
  }

  /** Takes over what a window that is gone has left. A recording without an end broke off with it. */
  private async inheritFrom(window: string, teacher: string, isSeen: boolean): Promise<void> {
    for (const { head, lesson } of await this.ledger.inherit(window, teacher, isSeen)) {
      if (head.kind !== 'take') continue;
      const { take, plan } = head;
      const own = this.ledger.ofTake(take);
      if (own.some((one) => one.head.kind === 'end')) continue;
      const parts = own.filter((one) => one.head.kind === 'part').length;
      const end = { kind: 'end', take, parts, recover: true, plan, payload: null } as const;
      if (parts === 0) await this.forget(take);
      else await this.add(lesson, end, { isLeft: true });
    }
    this.retry();
  }

  private changed(): void {
    const watchers = [...this.watchers];
    this.watchers.clear();
    for (const tell of watchers) tell();
    this.onChange();
  }
}
