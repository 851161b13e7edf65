import { LIVE_ENDS, LIVE_NUMBER_BYTES, SHOWN, type LiveState, type ToShower } from '@kite-trail/core/contract/live';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Relay, type Follower, type Shower } from './relay';

/** Somebody who writes down what they are shown. */
class Reader implements Follower {
  run = '';
  n = 0;
  isShown = false;
  endedFor: number | null = null;
  waitingBytes = 0;
  /** What is to be seen: the letters of all sights since the last whole one. */
  seen = '';
  messages = 0;

  show(message: Uint8Array): void {
    this.n = Buffer.from(message).readUInt32BE();
    const text = Buffer.from(message.subarray(LIVE_NUMBER_BYTES)).toString();
    this.seen = text.startsWith('=') ? text.slice(1) : this.seen + text;
    this.messages++;
  }

  tell(state: LiveState): void {
    if (state.run !== this.run) this.n = 0;
    this.run = state.run;
    this.isShown = state.isShown;
  }

  end(why: number): void {
    this.endedFor = why;
  }
}

/** A window that shows letters. */
class Writer implements Shower {
  news: ToShower | null = null;
  endedFor: number | null = null;
  /** All that was shown since the last whole sight. */
  shown = '';

  constructor(private readonly relay: Relay) {
    relay.begin('page', this);
  }

  tell(news: ToShower): void {
    this.news = news;
  }

  end(why: number): void {
    this.endedFor = why;
  }

  whole(text: string): void {
    this.shown = text;
    this.relay.take('page', SHOWN.whole, Buffer.from(`=${text}`));
  }

  add(text: string): void {
    this.shown += text;
    this.relay.take('page', SHOWN.change, Buffer.from(text));
    if (this.news?.wantsCheckpoint) this.relay.take('page', SHOWN.checkpoint, Buffer.from(`=${this.shown}`));
  }
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

describe('a relayed page', () => {
  const act = fc.oneof(
    {
      weight: 6,
      arbitrary: fc.record({
        add: fc.string({ minLength: 1, maxLength: 300 }).map((text) => text.replaceAll('=', '-')),
      }),
    },
    {
      weight: 1,
      arbitrary: fc.record({ whole: fc.string({ maxLength: 9 }).map((text) => text.replaceAll('=', '-')) }),
    },
    { weight: 2, arbitrary: fc.record({ join: fc.nat(4) }) },
    { weight: 2, arbitrary: fc.record({ leave: fc.nat(4) }) },
    { weight: 1, arbitrary: fc.record({ slow: fc.nat(4) }) },
    { weight: 1, arbitrary: fc.record({ quick: fc.nat(4) }) },
    { weight: 1, arbitrary: fc.constant('another' as const) },
    { weight: 1, arbitrary: fc.constant('much' as const) },
  );

  it('is in the end the same for all who follow, whenever they come, go, come back, or are held up', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 60 }), (acts) => {
        const relay = new Relay();
        let writer = new Writer(relay);
        writer.whole('begun ');
        const readers = Array.from({ length: 5 }, () => new Reader());
        const here = new Set<Reader>();
        const join = (reader: Reader) => {
          if (here.has(reader)) return;
          here.add(reader);
          relay.join('page', reader, reader.run === '' ? null : { run: reader.run, n: reader.n });
        };
        for (const one of acts) {
          if (one === 'another') {
            writer = new Writer(relay);
            writer.whole('again ');
          } else if (one === 'much') writer.add('m'.repeat(300_000));
          else if ('add' in one) writer.add(one.add);
          else if ('whole' in one) writer.whole(one.whole);
          else if ('join' in one) join(readers[one.join]);
          else if ('slow' in one) readers[one.slow].waitingBytes = 10_000_000;
          else if ('quick' in one) readers[one.quick].waitingBytes = 0;
          else if (here.delete(readers[one.leave])) relay.leave('page', readers[one.leave]);
        }
        for (const reader of readers) {
          reader.waitingBytes = 0;
          join(reader);
        }
        // Nothing more is written.
        vi.advanceTimersByTime(1000);
        for (const reader of readers) expect(reader.seen).toBe(writer.shown);
      }),
      { numRuns: 500 },
    );
  });

  it('keeps nobody waiting for a slow line', () => {
    const relay = new Relay();
    const writer = new Writer(relay);
    writer.whole('');
    const [slow, quick] = [new Reader(), new Reader()];
    relay.join('page', slow, null);
    relay.join('page', quick, null);
    slow.waitingBytes = 1_000_000;
    for (let n = 0; n < 100; n++) writer.add('x');
    expect([slow.messages, quick.messages]).toEqual([1, 101]);
    slow.waitingBytes = 0;
    vi.advanceTimersByTime(1000);
    expect(slow.seen).toBe(quick.seen);
    // Nothing is looked after any more.
    expect(vi.getTimerCount()).toBe(0);
  });

  it('tells its window how many follow, and its followers whether it is shown', () => {
    const relay = new Relay();
    const reader = new Reader();
    relay.join('page', reader, null);
    expect(reader.isShown).toBe(false);
    const first = new Writer(relay);
    expect(first.news).toEqual({ followers: 1, wantsCheckpoint: false });
    const second = new Writer(relay);
    expect(first.endedFor).toBe(LIVE_ENDS.elsewhere);
    expect(reader.isShown).toBe(true);
    // Whoever was there before says nothing any more.
    relay.pause('page', first);
    expect(reader.isShown).toBe(true);
    relay.pause('page', second);
    expect(reader.isShown).toBe(false);
    relay.end('page', LIVE_ENDS.over);
    expect(reader.endedFor).toBe(LIVE_ENDS.over);
  });

  it('has room for five hundred', () => {
    const relay = new Relay();
    const joined = Array.from({ length: 501 }, () => relay.join('page', new Reader(), null));
    expect(joined.filter(Boolean)).toHaveLength(500);
    expect(joined.at(-1)).toBe(false);
  });
});
