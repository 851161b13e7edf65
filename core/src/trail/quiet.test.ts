import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TakeId } from '../lesson/ids';
import { inkAt, SECOND } from '../testing/timed-ink';
import { captionParts, captionStretches, spreadScript } from './caption-layout';
import { cut, quickened, silenced, whole, withStill, type Stretch } from './edit';
import { programmeLength, type Programme } from './programme';
import { closing, drawnIn, lengthOf, pausesIn, silentWritingIn, spokenIn } from './quiet';
import { flatten } from './trail';

const take = { id: 'take' as TakeId, lengthSamples: 30 * SECOND };
const inSeconds = (stretches: readonly Stretch[]) =>
  stretches.map(({ fromSamples, toSamples }) => [fromSamples / SECOND, toSamples / SECOND]);
const at = (from: number, to: number): Stretch => ({ fromSamples: from * SECOND, toSamples: to * SECOND });

/** Speaks from 1 to 5 and 12 to 20; writes from 4 to 6, and from 14 to 26 in three strokes. */
const marks = [inkAt('a', 4, 6), inkAt('b', 14, 16), inkAt('c', 21, 23), inkAt('d', 24, 26)];
const takes = new Map([[take.id, { ...take, sound: null, marks }]]);
const speech = () => [at(1, 5), at(12, 20)];
const programme = [whole(take)];
const trail = flatten(programme, takes);

describe('pauses', () => {
  it('are where nobody speaks and nothing is drawn', () => {
    expect(inSeconds(pausesIn(programme, trail, speech, SECOND))).toEqual([
      [0, 1],
      [6, 12],
      [20, 21],
      [23, 24],
      [26, 30],
    ]);
    expect(inSeconds(pausesIn(programme, trail, speech, 2 * SECOND))).toEqual([
      [6, 12],
      [26, 30],
    ]);
  });

  it('that were meant are left', () => {
    const edited = withStill(silenced(programme, at(7, 9)), 11 * SECOND, 3 * SECOND);
    expect(inSeconds(pausesIn(edited, flatten(edited, takes), speech, SECOND)).slice(1, 4)).toEqual([
      [6, 7],
      [9, 11],
      [14, 15],
    ]);
  });

  it('closed from the last to the first save what is listed, and cut no word and no ink', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2 * SECOND }), (stays) => {
        const pauses = pausesIn(programme, trail, speech, 2 * SECOND + 1);
        const closed = pauses.reduceRight<Programme>((now, one) => cut(now, closing(one, stays), 'keep'), programme);
        const saved = pauses.reduce((sum, one) => sum + lengthOf(one) - stays, 0);
        expect(programmeLength(programme) - programmeLength(closed)).toBe(saved);
        const after = flatten(closed, takes);
        const lengths = (stretches: readonly Stretch[]) => stretches.map(lengthOf);
        expect(lengths(drawnIn(after))).toEqual(lengths(drawnIn(trail)));
        expect(lengths(spokenIn(closed, speech))).toEqual(lengths(spokenIn(programme, speech)));
      }),
    );
  });
});

describe('silent writing', () => {
  it('reaches from the first stroke to the last while nobody speaks', () => {
    expect(inSeconds(silentWritingIn(programme, trail, speech, 0.5 * SECOND))).toEqual([
      [5, 6],
      [21, 26],
    ]);
    const quick = quickened(programme, at(21, 26), 5);
    expect(programmeLength(quick)).toBe(26 * SECOND);
    expect(silentWritingIn(quick, flatten(quick, takes), speech, 2 * SECOND)).toEqual([]);
  });
});

describe('captions ready to be filled', () => {
  it('are no longer than is read with ease, and cover the speech', () => {
    const spoken = fc
      .array(fc.tuple(fc.integer({ min: 1, max: 3 * SECOND }), fc.integer({ min: 4000, max: 20 * SECOND })))
      .map((pairs) => {
        let from = 0;
        return pairs.map(([gap, length]) => {
          const stretch = { fromSamples: from + gap, toSamples: from + gap + length };
          from = stretch.toSamples;
          return stretch;
        });
      });
    fc.assert(
      fc.property(spoken, fc.lorem({ maxCount: 12, mode: 'sentences' }), (stretches, script) => {
        const laid = captionStretches(stretches);
        laid.forEach((one, i) => {
          expect(lengthOf(one)).toBeLessThanOrEqual(6 * SECOND);
          if (i > 0) expect(one.fromSamples).toBeGreaterThanOrEqual(laid[i - 1].toSamples);
        });
        const covered = (one: Stretch) =>
          laid.some((other) => other.fromSamples <= one.fromSamples && other.toSamples > one.fromSamples);
        expect(stretches.every(covered)).toBe(true);
        const spread = spreadScript(script, stretches);
        if (stretches.length === 0) {
          expect(spread).toEqual([]);
          return;
        }
        spread.forEach((one, i) => {
          expect(one.toSamples).toBeGreaterThan(one.fromSamples);
          if (i > 0) expect(one.fromSamples).toBeGreaterThanOrEqual(spread[i - 1].toSamples);
        });
        const words = (text: string) => text.split(/\s+/).join(' ').trim();
        expect(words(spread.map(({ text }) => text).join(' '))).toBe(words(script));
      }),
    );
  });

  it('go with the pauses between sentences', () => {
    const script = 'High water is at ten past two. It stands for a while, and then the ebb begins to run.';
    const spoken = [at(1, 3.1), at(5, 10)];
    expect(spreadScript(script, spoken)).toEqual([
      { text: 'High water is at ten past two.', ...at(1, 3.1) },
      { text: 'It stands for a while, and then the ebb begins to run.', ...at(5, 10) },
    ]);
  });

  it('divide long sentences where one breathes', () => {
    const parts = captionParts(
      'When the wind goes against the tide the sea becomes short and steep, so we wait until the stream has turned before we leave.',
    );
    expect(parts).toEqual([
      'When the wind goes against the tide the sea becomes short and steep,',
      'so we wait until the stream has turned before we leave.',
    ]);
    expect(parts.every((part) => part.length <= 74)).toBe(true);
  });
});
