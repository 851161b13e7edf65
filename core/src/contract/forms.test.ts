import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TakeId } from '../lesson/ids';
import { programme } from '../testing/arbitraries';
import type { TakePlan } from '../trail/plan';
import { readForm, writeForm } from './forms';

const take = 'take-one' as TakeId;

describe('what is stored as JSON', () => {
  it('is read back the same, whatever is played', () => {
    fc.assert(
      fc.property(programme, (some) => {
        expect(readForm('programme', writeForm('programme', [...some]))).toEqual(some);
        const plan: TakePlan = { kind: 're-speak', fromSamples: 480, replaced: some, holds: [] };
        expect(readForm('plan', writeForm('plan', plan as never))).toEqual(plan);
      }),
    );
  });

  it('is read as the first version wrote it: bare, and with the kind of a segment told by its pace', () => {
    const bare = [
      { take, fromSamples: 0, toSamples: 480, pace: 1 },
      { take, fromSamples: 480, toSamples: 960, pace: 4, isDivided: true },
      { take, fromSamples: 960, toSamples: 960, pace: 'still', stillSamples: 4800, voice: null },
      { take, fromSamples: 960, toSamples: 1440, pace: 'at-once' },
      { take, fromSamples: 1440, toSamples: 1920, pace: 'pages' },
      { take, fromSamples: 0, toSamples: 480, pace: 1, voice: { take: 'take-two', fromSamples: 96 } },
    ];
    expect(readForm('programme', JSON.stringify(bare))).toEqual([
      { kind: 'play', take, fromSamples: 0, toSamples: 480, pace: 1 },
      { kind: 'play', take, fromSamples: 480, toSamples: 960, pace: 4, isDivided: true },
      { kind: 'still', take, atSamples: 960, forSamples: 4800, voice: null },
      { kind: 'at-once', take, fromSamples: 960, toSamples: 1440 },
      { kind: 'pages', take, fromSamples: 1440, toSamples: 1920 },
      { kind: 'play', take, fromSamples: 0, toSamples: 480, pace: 1, voice: { take: 'take-two', fromSamples: 96 } },
    ]);
    const plan = { kind: 'retake', fromSamples: 0, replaced: bare.slice(0, 1) };
    expect(readForm('plan', JSON.stringify(plan))).toMatchObject({ kind: 'retake', replaced: [{ kind: 'play' }] });
  });

  it('is never read as something else', () => {
    const text = writeForm('sound', { isEvened: true, isQuieted: false });
    expect(() => readForm('chapters', text)).toThrow(/chapters is damaged/);
    expect(() => readForm('sound', text.replace('"version":2', '"version":9'))).toThrow(/newer version/);
    for (const odd of ['', '{', 'null', '[]', '{"isEvened":1}'])
      expect(() => readForm('sound', odd)).toThrow(/damaged/);
  });
});
