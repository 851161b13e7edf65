import type { LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import type { SetAsideList } from '@kite-trail/core/contract/set-aside';
import type { TakePlan } from '@kite-trail/core/trail/plan';
import { nanoid } from 'nanoid';
import { halved } from './changes';
import {
  isStepOfEditing,
  takeOf,
  type Entry,
  type EntryKey,
  type Head,
  type Owed,
  type OwedKind,
  type PayloadOf,
} from './entry';
import type { Kept, OutboxLog } from './log';
import { nextToSend, type LaneName } from './order';
import { backOffMs, Unreadable, verdictOn, type WaitsFor } from './policy';
import type { Answer, School } from './school';
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

interface Lane {
  lesson: LessonId;
  name: LaneName;
  isRunning: boolean;
  waitsFor: WaitsFor | null;
}

const LANES: readonly LaneName[] = ['files', 'rest'];

/**
 * The one way from this device to the school: an ordered log of everything it is owed. An entry is written before it counts
 * as kept, is sent when what it needs is at the school, and goes only when the school has said yes. What it refuses is set
 * aside. Every window sends its own entries; those of a window that is gone are taken over by another.
 */
export class Outbox {
  onChange: () => void = () => {};
  /** The school has said yes to an entry. */
  onAnswer: (entry: Entry, answer: Answer) => void = () => {};
  /** The school has refused an entry, which is set aside with what cannot be without it. */
  onSetAside: (entry: Entry, why: string) => void = () => {};
  private readonly entries = new Map<EntryKey, Entry>();
  /** Entries that are not to be sent yet: still being written, or not complete. */
  private readonly held = new Map<EntryKey, number>();
  private readonly lanes: Lane[] = [];
  private readonly sleepers = new Set<() => void>();
  private readonly watchers = new Set<() => void>();
  private teacher: string | null = null;
  private lastOrder = 0;
  private isClosed = false;

  constructor(
    private readonly log: OutboxLog,
    private readonly school: School,
    private readonly locks: WindowLocks,
    private readonly random: () => number = Math.random,
  ) {}

  /** A teacher is signed in: what is theirs is sent from now on, also what windows that are gone have left. */
  async signedIn(teacher: string): Promise<void> {
    this.teacher = teacher;
    await this.inherit(true);
    this.retry();
  }

  /**
   * Takes over what windows that are gone have left, and what the others leave when they go.
   * @param isSeen nothing has been shown yet: what is taken over will be part of what this window shows
   */
  async inherit(isSeen = false): Promise<void> {
    const { teacher } = this;
    if (teacher === null) return;
    const known = await this.log.entries();
    this.lastOrder = known.reduce((last, { order }) => Math.max(last, order), this.lastOrder);
    const others = new Set(known.map(({ window }) => window).filter((window) => window !== this.locks.window));
    await this.locks.inherit([...others], (window, isAtOnce) => this.takeOver(window, teacher, isAtOnce && isSeen));
  }

  signedOut(): void {
    this.teacher = null;
  }

  /** The window goes: nothing more is sent or written from here. */
  close(): void {
    this.isClosed = true;
    this.signedOut();
    this.log.close();
  }

  /** Owes the school one thing more. @returns when it is kept here; it is sent meanwhile, unless it is held */
  async add(lesson: LessonId, owed: Owed, { isHeld = false, isLeft = false } = {}): Promise<EntryKey> {
    const { payload, ...head } = owed;
    const entry = { ...this.newEntry(lesson, head as Head), isLeft };
    if (isHeld) this.hold(entry.key);
    await this.write([{ entry, payload }]);
    return entry.key;
  }

  /** Puts something else in the place of an entry that is held. */
  async replace(key: EntryKey, { payload, ...head }: Owed): Promise<void> {
    const entry = this.entries.get(key);
    if (!entry) return;
    await this.write([{ entry: { ...entry, head: head as Head }, payload }]);
  }

  /** A held entry is complete, and may be sent. */
  release(key: EntryKey): void {
    this.letGo(key);
    const entry = this.entries.get(key);
    if (entry) this.work(entry.lesson);
  }

  /** Where a take is to play becomes known only while it is recorded. */
  async plan(take: TakeId, plan: TakePlan): Promise<void> {
    const entry = this.ofTake(take).find(({ head }) => head.kind === 'take');
    if (entry) await this.change([{ ...entry, head: { ...entry.head, plan } as Head }]);
  }

  /** Forgets a take of which nothing was recorded. */
  async forget(take: TakeId): Promise<void> {
    await this.change([], this.ofTake(take));
  }

  isOwed(lesson: LessonId, isMeant: (entry: Entry) => boolean): boolean {
    return this.ofLesson(lesson).some((entry) => entry.state === 'owed' && isMeant(entry));
  }

  isSetAside(take: TakeId): boolean {
    return this.ofTake(take).some(({ state }) => state === 'set-aside');
  }

  /** A take's parts in their order, as far as they are here. */
  async parts(take: TakeId): Promise<Uint8Array[]> {
    const parts = this.ofTake(take).filter(({ head }) => head.kind === 'part');
    const payloads = await Promise.all(parts.map(({ key }) => this.log.payload(key)));
    return payloads.filter((payload) => payload instanceof Uint8Array);
  }

  /** What the school is owed of a lesson still, in its order. */
  async owedBy(lesson: LessonId): Promise<Kept[]> {
    const owed = this.ofLesson(lesson).filter(({ state }) => state !== 'set-aside');
    return this.read(owed);
  }

  payload(key: EntryKey): Promise<Owed['payload'] | undefined> {
    return this.log.payload(key);
  }

  /** Tries at once what waits: the network is back, or somebody signed in. */
  retry(): void {
    for (const wake of this.sleepers) wake();
    for (const lesson of new Set([...this.entries.values()].map((entry) => entry.lesson))) this.work(lesson);
  }

  /** Settles when the school has all of a lesson's entries that it will take, or they wait for something else. */
  async settled(lesson: LessonId, isMeant: (entry: Entry) => boolean = () => true): Promise<void> {
    const isWaiting = () => this.teacher === null || this.lanes.some((lane) => lane.lesson === lesson && lane.waitsFor);
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
      return { ...entry, order: this.nextOrder(), head: renewedHead, state: 'owed', why: null };
    });
    await this.change(renewed, gone);
    this.work(aside.lesson);
  }

  /** All that belongs to what was set aside, with payloads. */
  readAside = ({ entries }: SetAside): Promise<Kept[]> => this.read(entries);

  /**
   * Takes in what was set aside and saved to a file, here or on another device; what is here already stays as it is.
   * @returns what is set aside now of it
   */
  async bringBack({ lesson, why, entries }: SetAsideList, owed: readonly Owed[]): Promise<SetAside[]> {
    const known = new Set(this.entries.keys());
    const brought = entries.flatMap(({ key, head, atMs }, i): Kept[] => {
      if (known.has(key as EntryKey)) return [];
      const entry = {
        ...this.newEntry(lesson, head as Head),
        key: key as EntryKey,
        state: 'set-aside',
        why,
        atMs,
      } as const;
      return [{ entry, payload: owed[i].payload }];
    });
    await this.write(brought);
    const keys = new Set<string>(entries.map(({ key }) => key));
    return this.status().setAside.filter((one) => one.entries.some(({ key }) => keys.has(key)));
  }

  /** Gives up what was set aside, as the teacher wishes. */
  async discard(aside: SetAside): Promise<void> {
    await this.change([], aside.entries);
  }

  /** How it stands with what is the teacher's who is signed in. */
  status(): OutboxStatus {
    const theirs = [...this.entries.values()].filter(({ teacher }) => teacher === this.teacher);
    const entries = theirs.sort((a, b) => a.order - b.order);
    const owed = new Map<LessonId, number>();
    for (const { lesson, state } of entries) if (state === 'owed') owed.set(lesson, (owed.get(lesson) ?? 0) + 1);
    const countOf = (kind: OwedKind) =>
      entries.filter(({ head, state }) => head.kind === kind && state === 'owed').length;
    const waiting = this.lanes.flatMap(({ waitsFor }) => waitsFor ?? []);
    return {
      owed,
      takes: new Set(entries.flatMap((entry) => takeOf(entry) ?? [])),
      filesOwed: countOf('file'),
      partsOwed: countOf('part'),
      waitsFor: waiting.find((one) => one.for === 'sign-in') ?? waiting[0] ?? null,
      setAside: gatherSetAside(entries),
    };
  }

  private newEntry(lesson: LessonId, head: Head): Entry {
    const take = takeOf({ head });
    // What comes of a recording that was set aside stays with it.
    const aside = take && this.ofTake(take).find(({ state }) => state === 'set-aside');
    return {
      key: nanoid() as EntryKey,
      order: this.nextOrder(),
      teacher: this.teacher,
      lesson,
      window: this.locks.window,
      madeIn: this.locks.window,
      isLeft: false,
      head,
      state: aside ? 'set-aside' : 'owed',
      why: aside ? aside.why : null,
      atMs: Date.now(),
    };
  }

  private nextOrder = (): number => (this.lastOrder = Math.floor(this.lastOrder) + 1);
  private hold = (key: EntryKey) => this.held.set(key, (this.held.get(key) ?? 0) + 1);

  private letGo(key: EntryKey): void {
    const holds = (this.held.get(key) ?? 0) - 1;
    if (holds > 0) this.held.set(key, holds);
    else this.held.delete(key);
  }

  /** Keeps entries in the place of others; none is sent before it is written. */
  private async write(kept: readonly Kept[], gone: readonly Entry[] = []): Promise<void> {
    for (const { entry } of kept) {
      this.entries.set(entry.key, entry);
      this.hold(entry.key);
    }
    for (const { key } of gone) this.entries.delete(key);
    this.changed();
    await this.log.put(
      kept,
      gone.map(({ key }) => key),
    );
    for (const { entry } of kept) this.release(entry.key);
  }

  private async read(entries: readonly Entry[]): Promise<Kept[]> {
    const read = await Promise.all(
      entries.map(async (entry) => ({ entry, payload: await this.log.payload(entry.key) })),
    );
    return read.flatMap(({ entry, payload }) => (payload === undefined ? [] : [{ entry, payload }]));
  }

  private ofLesson = (lesson: LessonId): Entry[] =>
    [...this.entries.values()].filter((entry) => entry.lesson === lesson).sort((a, b) => a.order - b.order);

  private ofTake = (take: TakeId): Entry[] =>
    [...this.entries.values()].filter((entry) => takeOf(entry) === take).sort((a, b) => a.order - b.order);

  /** Takes over what a window that is gone has left. A recording without an end broke off with it. */
  private async takeOver(window: string, teacher: string, isSeen: boolean): Promise<void> {
    const left = await this.log.takeOver(window, this.locks.window, teacher, isSeen);
    for (const entry of left) this.entries.set(entry.key, entry);
    for (const { head, lesson } of left) {
      if (head.kind !== 'take') continue;
      const own = this.ofTake(head.take);
      if (own.some((one) => one.head.kind === 'end')) continue;
      const { take, plan } = head;
      const parts = own.filter((one) => one.head.kind === 'part').length;
      if (parts === 0) await this.forget(take);
      else {
        const end = { kind: 'end', take, parts, recover: true, plan, payload: null } as const;
        await this.add(lesson, end, { isLeft: true });
      }
    }
    this.retry();
  }

  private work(lesson: LessonId): void {
    for (const name of LANES) void this.run(this.lane(lesson, name));
  }

  private lane(lesson: LessonId, name: LaneName): Lane {
    const known = this.lanes.find((lane) => lane.lesson === lesson && lane.name === name);
    if (known) return known;
    const lane: Lane = { lesson, name, isRunning: false, waitsFor: null };
    this.lanes.push(lane);
    return lane;
  }

  /** Sends what a lane has, one after the other. */
  private async run(lane: Lane): Promise<void> {
    if (lane.isRunning) return;
    lane.isRunning = true;
    let failed = 0;
    for (let entry = this.next(lane); entry; entry = this.next(lane)) {
      const answer = await this.send(entry).catch(verdictOn);
      // What came of it, the next window finds out by the entry's key.
      if (this.isClosed) return;
      if ('wait' in answer) {
        lane.waitsFor = answer.wait;
        this.changed();
        await this.sleep(backOffMs(++failed, this.random()));
        continue;
      }
      lane.waitsFor = null;
      failed = 0;
      if ('setAside' in answer) await this.refused(entry, answer.setAside);
      else await this.accepted(entry, answer);
      // What waited for it in the other lane can go now.
      this.work(lane.lesson);
    }
    lane.isRunning = false;
    lane.waitsFor = null;
    this.changed();
  }

  private next({ lesson, name }: Lane): Entry | null {
    if (this.teacher === null) return null;
    const theirs = this.ofLesson(lesson).filter(({ teacher }) => teacher === this.teacher);
    return nextToSend(theirs, name, ({ key }) => !this.held.has(key));
  }

  private async send(entry: Entry): Promise<Answer> {
    const payload = await this.log.payload(entry.key);
    if (payload === undefined) throw new Unreadable();
    return this.school.send(entry, payload);
  }

  private async accepted(entry: Entry, answer: Answer): Promise<void> {
    const own = this.ofLesson(entry.lesson).filter(({ key }) => key !== entry.key);
    if (entry.head.kind === 'take' || entry.head.kind === 'part') {
      await this.change([{ ...entry, state: 'sent' }]);
    } else {
      const isWhole = (one: Entry) =>
        entry.head.kind === 'end' && takeOf(one) === takeOf(entry) && one.state === 'sent';
      await this.change(madeSince(entry, own, answer), [entry, ...own.filter(isWhole)]);
    }
    this.onAnswer(entry, answer);
  }

  private async refused(entry: Entry, why: string): Promise<void> {
    const halves = await this.inHalves(entry);
    if (halves) return;
    const after = this.ofLesson(entry.lesson).filter((one) => one.state !== 'set-aside' && isLostWith(entry, one));
    await this.change(after.map((one): Entry => ({ ...one, state: 'set-aside', why, atMs: Date.now() })));
    this.onSetAside(entry, why);
  }

  /** Of changes refused together, perhaps only one cannot be: the others are found by halving. */
  private async inHalves(entry: Entry): Promise<boolean> {
    if (entry.head.kind !== 'changes') return false;
    const payload = (await this.log.payload(entry.key)) as PayloadOf<'changes'> | undefined;
    const halves = payload && halved(payload);
    if (!halves) return false;
    const [first, second] = halves;
    const next = this.ofLesson(entry.lesson).find(({ order }) => order > entry.order)?.order ?? entry.order + 1;
    const earlier = { ...entry, key: nanoid() as EntryKey };
    const later = { ...entry, key: nanoid() as EntryKey, order: (entry.order + next) / 2 };
    const kept = [
      { entry: earlier, payload: first },
      { entry: later, payload: second },
    ];
    await this.write(kept, [entry]);
    return true;
  }

  /** Changes entries here and in the log, and forgets others. */
  private async change(changed: readonly Entry[], gone: readonly Entry[] = []): Promise<void> {
    for (const entry of changed) this.entries.set(entry.key, entry);
    for (const { key } of gone) this.entries.delete(key);
    await this.log.apply(
      changed,
      gone.map(({ key }) => key),
    );
    this.changed();
  }

  private changed(): void {
    const watchers = [...this.watchers];
    this.watchers.clear();
    for (const tell of watchers) tell();
    this.onChange();
  }

  private sleep(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const wake = () => {
        clearTimeout(timer);
        this.sleepers.delete(wake);
        resolve();
      };
      const timer = setTimeout(wake, ms);
      this.sleepers.add(wake);
    });
  }
}

/** Entries that were made on top of one that the school has taken, as they are after its answer. */
function madeSince(taken: Entry, entries: readonly Entry[], answer: Answer): Entry[] {
  const owed = entries.filter(({ state, order }) => state === 'owed' && order > taken.order);
  if (answer.to === 'changes' && !answer.merged) {
    const { revision } = answer;
    const ofSameView = owed.filter(({ madeIn }) => madeIn === taken.madeIn);
    return ofSameView.flatMap((one) =>
      one.head.kind === 'changes' ? [{ ...one, head: { ...one.head, revision } }] : [],
    );
  }
  const from = answer.to === 'step' ? answer.state.edit : answer.to === 'end' ? answer.lesson.edit : null;
  const next = from && owed.find(isStepOfEditing);
  return from && next ? [{ ...next, head: { ...next.head, from } as Head }] : [];
}

/** Whether an entry cannot be without one that was refused. */
function isLostWith(refused: Entry, one: Entry): boolean {
  if (one.key === refused.key) return true;
  if (takeOf(refused)) return takeOf(one) === takeOf(refused);
  return isStepOfEditing(refused) && isStepOfEditing(one) && one.order > refused.order;
}
