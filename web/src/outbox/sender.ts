import type { LessonId } from '@kite-trail/core/lesson/ids';
import { nanoid } from 'nanoid';
import { halved } from './changes';
import { isStepOfEditing, takeOf, type Entry, type EntryKey, type Head, type PayloadOf } from './entry';
import type { Ledger } from './ledger';
import { nextToSend, type LaneName } from './order';
import { backOffMs, Unreadable, verdictOn, type Verdict, type WaitsFor } from './policy';
import type { Answer, School } from './school';

interface Lane {
  lesson: LessonId;
  name: LaneName;
  isRunning: boolean;
  waitsFor: WaitsFor | null;
}

const LANES: readonly LaneName[] = ['files', 'rest'];

/** Sends a window's entries to the school: those of a lane one after the other, each when what it needs is there. */
export class Sender {
  onAnswer: (entry: Entry, answer: Answer) => void = () => {};
  onSetAside: (entry: Entry, why: string) => void = () => {};
  private readonly lanes: Lane[] = [];
  private readonly sleepers = new Set<() => void>();
  private isStopped = false;

  constructor(
    private readonly ledger: Ledger,
    private readonly school: School,
    private readonly random: () => number,
  ) {
    ledger.onReady = ({ lesson }) => this.work(lesson);
  }

  /** Sends what a lesson's school is owed, where it is not at it already. */
  work(lesson: LessonId): void {
    for (const name of LANES) void this.run(this.lane(lesson, name));
  }

  /** Tries at once what waits. */
  retry(): void {
    for (const wake of this.sleepers) wake();
    for (const lesson of new Set(this.ledger.all().map((entry) => entry.lesson))) this.work(lesson);
  }

  stop(): void {
    this.isStopped = true;
  }

  /** What waits, of a lesson or at all: what somebody can do about it comes first. */
  waitsFor(lesson?: LessonId): WaitsFor | null {
    const meant = this.lanes.filter((lane) => lesson === undefined || lane.lesson === lesson);
    const waiting = meant.flatMap(({ waitsFor }) => waitsFor ?? []);
    return waiting.find((one) => one.for === 'sign-in') ?? waiting[0] ?? null;
  }

  private lane(lesson: LessonId, name: LaneName): Lane {
    const known = this.lanes.find((lane) => lane.lesson === lesson && lane.name === name);
    if (known) return known;
    const lane: Lane = { lesson, name, isRunning: false, waitsFor: null };
    this.lanes.push(lane);
    return lane;
  }

  private async run(lane: Lane): Promise<void> {
    if (lane.isRunning) return;
    lane.isRunning = true;
    let failed = 0;
    for (let entry = this.next(lane); entry; entry = this.next(lane)) {
      const verdict = await this.attempt(entry).catch(verdictOn);
      if (this.isStopped) return;
      lane.waitsFor = verdict && 'wait' in verdict ? verdict.wait : null;
      failed = lane.waitsFor ? failed + 1 : 0;
      this.ledger.onChange();
      // What waited for it in the other lane can go now.
      if (!lane.waitsFor) this.work(lane.lesson);
      else await this.sleep(backOffMs(failed, this.random()));
    }
    lane.isRunning = false;
    lane.waitsFor = null;
    this.ledger.onChange();
  }

  private next({ lesson, name }: Lane): Entry | null {
    if (this.isStopped || this.ledger.teacher === null) return null;
    const theirs = this.ledger.theirs().filter((entry) => entry.lesson === lesson);
    return nextToSend(theirs, name, this.ledger.isReady);
  }

  /** Sends an entry and does what follows from the answer. @returns what it waits for, where it has to */
  private async attempt(entry: Entry): Promise<Verdict | null> {
    const payload = await this.ledger.payload(entry.key);
    const answer =
      payload === undefined ? verdictOn(new Unreadable()) : await this.school.send(entry, payload).catch(verdictOn);
    // What came of it after the window went, the next one finds out by the entry's key.
    if (this.isStopped || 'wait' in answer) return 'wait' in answer ? answer : null;
    if ('setAside' in answer) await this.refused(entry, answer.setAside);
    else await this.accepted(entry, answer);
    return null;
  }

  private async accepted(entry: Entry, answer: Answer): Promise<void> {
    const written = this.taken(entry, answer);
    // At once, while it is written: what is made meanwhile is made on top of what the school has taken, and must say so.
    this.onAnswer(entry, answer);
    await written;
  }

  /** Notes that the school has taken an entry. */
  private taken(entry: Entry, answer: Answer): Promise<void> {
    if (entry.head.kind === 'take' || entry.head.kind === 'part') {
      return this.ledger.change([{ ...entry, state: 'sent' }]);
    }
    const own = this.ledger.ofLesson(entry.lesson).filter(({ key }) => key !== entry.key);
    const isWhole = (one: Entry) => entry.head.kind === 'end' && takeOf(one) === takeOf(entry) && one.state === 'sent';
    return this.ledger.change(madeSince(entry, own, answer), [entry, ...own.filter(isWhole)]);
  }

  private async refused(entry: Entry, why: string): Promise<void> {
    if (await this.inHalves(entry)) return;
    const own = this.ledger.ofLesson(entry.lesson);
    const lost = own.filter((one) => one.state !== 'set-aside' && isLostWith(entry, one));
    await this.ledger.change(lost.map((one): Entry => ({ ...one, state: 'set-aside', why, atMs: Date.now() })));
    this.onSetAside(entry, why);
  }

  /** Of changes refused together, perhaps only one cannot be: the others are found by halving. */
  private async inHalves(entry: Entry): Promise<boolean> {
    if (entry.head.kind !== 'changes') return false;
    const payload = (await this.ledger.payload(entry.key)) as PayloadOf<'changes'> | undefined;
    const halves = payload && halved(payload);
    if (!halves) return false;
    const next = this.ledger.ofLesson(entry.lesson).find(({ order }) => order > entry.order)?.order;
    const later = (entry.order + (next ?? entry.order + 1)) / 2;
    const kept = halves.map((half, i) => ({
      entry: { ...entry, key: nanoid() as EntryKey, order: i === 0 ? entry.order : later },
      payload: half,
    }));
    await this.ledger.write(kept, [entry]);
    return true;
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
