import { encodeHistory, NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { EditedFrom } from '@kite-trail/core/contract/edition';
import type { AssetId, LessonId, PageId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import { NOTHING_EDITED } from '@kite-trail/core/trail/edition';
import fc from 'fast-check';
import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Owed } from './entry';
import { FakeSchool, namesOf, type Fate } from '../testing/fake-school';
import { turn } from '../testing/turn';
import { OutboxLog } from './log';
import { Outbox } from './outbox';
import type { School } from './school';
import type { WindowLocks } from './window-locks';

const LESSON = 'lesson-one' as LessonId;
const PLAN = { kind: 'carry-on' } as const;
const TEACHER = 'teacher-one';

beforeEach(() => {
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** The windows of a browser that are there. */
class Browser {
  private readonly open = new Set<string>();
  private count = 0;

  locks(): WindowLocks {
    const window = `window-${this.count++}`;
    this.open.add(window);
    return {
      window,
      inherit: async (windows, inheritFrom) => {
        for (const one of windows) if (!this.open.has(one)) await inheritFrom(one, true);
      },
    };
  }

  close(window: string): void {
    this.open.delete(window);
  }
}

type Made = 'file' | 'changes' | 'begin' | 'part' | 'end' | 'step' | 'name' | 'hand-in';

/** Somebody who makes things in a window, closes it, and opens another. */
class Teacher {
  readonly browser = new Browser();
  outbox!: Outbox;
  /** What has been made, in its order, as far as it was kept before its window was closed. */
  readonly kept: string[] = [];
  private log!: OutboxLog;
  private locks!: WindowLocks;
  private made = 0;
  /** The edit in force, as far as the window was told. */
  private edit!: EditedFrom;
  private take: { id: TakeId; parts: number } | null = null;

  constructor(readonly school: FakeSchool) {}

  async open(): Promise<void> {
    this.log = await OutboxLog.open();
    this.locks = this.browser.locks();
    this.outbox = new Outbox(this.log, this.whileOpen(), this.locks, () => 0.5);
    this.take = null;
    this.edit = this.school.edit;
    this.outbox.onAnswer = (_entry, answer) => {
      if (answer.to === 'step') this.edit = answer.state.edit;
      if (answer.to === 'end') this.edit = answer.lesson.edit;
    };
    await this.outbox.signedIn(TEACHER);
  }

  /** A window that is closed hears no answer any more. */
  private whileOpen(): School {
    const { school, locks } = this;
    const heard = <A>(answer: Promise<A>): Promise<A> =>
      new Promise((resolve, reject) => {
        const isOpen = () => this.locks === locks;
        answer.then(
          (yes) => isOpen() && resolve(yes),
          (no: unknown) => isOpen() && reject(no as Error),
        );
      });
    return { send: (entry, payload) => heard(school.send(entry, payload)), stands: () => heard(school.stands()) };
  }

  /** All that is not written by then is gone. */
  close(): void {
    this.outbox.stop();
    this.log.close();
    this.browser.close(this.locks.window);
  }

  /** @param bad by its name, it is among what the school refuses */
  async make(kind: Made, bad: boolean): Promise<void> {
    const owed = this.thing(kind, `${bad ? 'bad' : 'good'}-${this.made++}`);
    if (!owed) return;
    await this.outbox.add(LESSON, owed);
    this.kept.push(...namesOf(owed));
  }

  private thing(kind: Made, name: string): Owed | null {
    switch (kind) {
      case 'file':
        return { kind: 'file', asset: name as AssetId, name, payload: new Blob([name]) };
      case 'changes':
        return changes(`${name}`, `good-${name}-too`, `good-${name}-as-well`);
      case 'begin':
        if (this.take) return null;
        this.take = { id: name as TakeId, parts: 0 };
        return { kind: 'take', take: this.take.id, hasSound: true, plan: PLAN, beganAtMs: 0, payload: null };
      case 'part':
        if (!this.take) return null;
        return { kind: 'part', take: this.take.id, n: this.take.parts++, payload: Uint8Array.of(1, 2, 3) };
      case 'end': {
        if (!this.take) return null;
        const { id, parts } = this.take;
        this.take = null;
        return { kind: 'end', take: id, parts, recover: false, plan: PLAN, payload: null };
      }
      case 'step': {
        const edition = { ...NOTHING_EDITED, chapters: [{ take: 'take-one' as TakeId, atSamples: 0, title: name }] };
        return { kind: 'edit', from: this.edit, payload: edition };
      }
      case 'name':
        return { kind: 'name', payload: { title: name } };
      case 'hand-in':
        return { kind: 'hand-in', payload: { saidAt: name } };
    }
  }
}

function changes(...names: string[]): Owed {
  const lift = (name: string) => ({
    kind: 'lift' as const,
    page: 'page-one' as PageId,
    pieceIds: [name as PieceId],
    atSamples: 0,
  });
  return {
    kind: 'changes',
    revision: 1,
    payload: { marks: encodeMarks(names.map(lift)), history: encodeHistory(NO_HISTORY) },
  };
}

/** Lets time pass until nothing is owed, or waits for somebody. */
async function drained(outbox: Outbox): Promise<void> {
  for (let turns = 0; outbox.status().owed.size > 0; turns++) {
    if (turns > 5000) throw new Error(`Still owed: ${JSON.stringify([...outbox.status().owed])}`);
    await passed();
  }
}

async function passed(): Promise<void> {
  for (let n = 0; n < 4; n++) await turn();
  vi.advanceTimersByTime(9000);
}

const asideNames = async (outbox: Outbox): Promise<string[]> => {
  const kept = await Promise.all(outbox.status().setAside.map(outbox.readAside));
  return kept.flat().flatMap(({ entry, payload }) => namesOf({ ...entry.head, payload } as Owed));
};

describe('what is owed', () => {
  const fate = fc.constantFrom<Fate>('answered', 'lost', 'answer-lost', 'busy', 'full', 'signed-out');
  const action = fc.oneof(
    {
      weight: 8,
      arbitrary: fc.record({
        make: fc.constantFrom<Made>('file', 'changes', 'begin', 'part', 'part', 'end', 'step', 'name', 'hand-in'),
        bad: fc.nat(9).map((n) => n === 0),
      }),
    },
    { weight: 2, arbitrary: fc.record({ fates: fc.array(fate, { maxLength: 6 }) }) },
    { weight: 1, arbitrary: fc.constant('reopen' as const) },
    { weight: 2, arbitrary: fc.constant('wait' as const) },
  );

  it('arrives once and in its order, or is set aside and told, whatever the network, the school and the window do', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(action, { maxLength: 40 }), async (actions) => {
        vi.stubGlobal('indexedDB', new IDBFactory());
        const school = new FakeSchool((name) => /bad-/.test(name) && !/good-bad/.test(name));
        const teacher = new Teacher(school);
        await teacher.open();
        for (const one of actions) {
          if (one === 'wait') await passed();
          else if (one === 'reopen') {
            teacher.close();
            await teacher.open();
          } else if ('fates' in one) school.fates.push(...one.fates);
          else await teacher.make(one.make, one.bad);
        }
        // In the end all is well again, and somebody comes back.
        school.fates = [];
        teacher.close();
        await teacher.open();
        await drained(teacher.outbox);

        const aside = await asideNames(teacher.outbox);
        // Only what can never be is refused, and what was made with it.
        if (!teacher.kept.some((name) => name.includes('bad-'))) expect(aside).toEqual([]);
        const { arrived } = school;
        // A recording of which nothing was recorded is none.
        const isEmpty = (name: string) =>
          name.startsWith('take ') &&
          !teacher.kept.some(
            (other) => other.startsWith(`part of ${name.slice(5)}:`) || other === `end of ${name.slice(5)}`,
          );
        for (const name of teacher.kept.filter((one) => !isEmpty(one))) {
          const times = arrived.filter((one) => one === name).length;
          if (!aside.includes(name)) expect([name, times]).toEqual([name, 1]);
          // A recording that is set aside is whole here, though some of it may be at the school.
          else if (!/^(take|part)/.test(name)) expect([name, times]).toEqual([name, 0]);
        }
        expect(new Set(arrived).size).toBe(arrived.length);
        const came = new Set(arrived);
        for (const what of [/^(mark|end|step|hand-in)/, /^name/]) {
          const inTurn = (names: readonly string[]) =>
            names.filter((name) => what.test(name) && teacher.kept.includes(name));
          expect(inTurn(arrived)).toEqual(inTurn(teacher.kept).filter((name) => came.has(name)));
        }
        for (const name of arrived.filter((one) => /^(mark|hand-in) /.test(one))) {
          const files = teacher.kept
            .slice(0, teacher.kept.indexOf(name))
            .filter((one) => one.startsWith('file ') && came.has(one));
          for (const file of files) expect(arrived.indexOf(file)).toBeLessThan(arrived.indexOf(name));
        }
        teacher.close();
      }),
      { numRuns: Number(import.meta.env.VITE_OUTBOX_RUNS ?? 1000) },
    );
  }, 3_600_000);
});

describe('what a window that is gone has left', () => {
  const viewsOf = async (outbox: Outbox) => (await outbox.owedBy(LESSON)).map(({ entry }) => entry.madeIn);

  it('is part of what the next one shows only where nothing is shown yet', async () => {
    const waiting: School = { send: () => new Promise(() => {}), stands: () => new Promise(() => {}) };
    const browser = new Browser();
    const left = browser.locks();
    const first = new Outbox(await OutboxLog.open(), waiting, left);
    await first.signedIn(TEACHER);
    await first.add(LESSON, changes('good-left'));

    const next = browser.locks();
    const second = new Outbox(await OutboxLog.open(), waiting, next);
    await second.signedIn(TEACHER);
    browser.close(left.window);
    // The session had expired in the middle of a lesson.
    await second.signedIn(TEACHER);
    expect(await viewsOf(second)).toEqual([left.window]);

    browser.close(next.window);
    const third = browser.locks();
    const fresh = new Outbox(await OutboxLog.open(), waiting, third);
    await fresh.signedIn(TEACHER);
    expect(await viewsOf(fresh)).toEqual([third.window]);
  });
});
