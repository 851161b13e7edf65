import type { TakePlan } from '@kite-trail/core/trail/plan';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { after, type Recording, type RecordingEvent } from './machine';

const plan: TakePlan = { kind: 'carry-on' };
const events: RecordingEvent<string>[] = [
  { of: 'begin', plan },
  { of: 'opened', run: 'take one' },
  { of: 'opened', run: 'take two' },
  { of: 'run-up' },
  { of: 'heard' },
  { of: 'pause' },
  { of: 'resume' },
  { of: 'stop' },
  { of: 'cancel' },
  { of: 'over' },
];
const IDLE: Recording<string> = { is: 'idle' };
const through = (...names: RecordingEvent<string>['of'][]) =>
  names.map((name) => events.find(({ of }) => of === name)!).reduce(after<string>, IDLE);

describe('a recording', () => {
  it('counts, records, pauses and ends', () => {
    expect(through('begin', 'opened', 'heard')).toEqual({ is: 'recording', plan, run: 'take one' });
    expect(through('begin', 'opened', 'run-up', 'heard', 'pause', 'resume').is).toBe('recording');
    expect(through('begin', 'opened', 'heard', 'pause', 'stop')).toEqual({ is: 'ending', plan, run: 'take one' });
    expect(through('begin', 'opened', 'heard', 'stop', 'over')).toEqual(IDLE);
  });

  it('is given up while it begins, and where it cannot begin', () => {
    expect(through('begin', 'cancel', 'over')).toEqual(IDLE);
    expect(through('begin', 'over')).toEqual(IDLE);
    // What is still opening when it is given up does not begin it anew.
    expect(through('begin', 'cancel', 'opened', 'heard').is).toBe('ending');
  });

  it('never loses, changes or gives up what is being recorded, whatever happens', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...events), { maxLength: 40 }), (happened) => {
        let now = through();
        for (const event of happened) {
          const next = after(now, event);
          if (now.is === 'recording' || now.is === 'paused') {
            expect(['recording', 'paused', 'ending']).toContain(next.is);
            expect((next as typeof now).run).toBe(now.run);
            if (next.is === 'ending') expect(event.of).toBe('stop');
          }
          if (next.is === 'recording' && now.is !== 'paused' && now.is !== 'recording') expect(event.of).toBe('heard');
          if (next.is !== 'idle') expect(next.plan).toBe(plan);
          now = next;
        }
      }),
    );
  });
});
