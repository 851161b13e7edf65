import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { Segment } from '@kite-trail/core/trail/programme';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { editionOf } from '../../testing/made-lesson';
import { useEdition, type EditionFrom } from './edition';
import { LessonScope, useOtherwise } from '../lesson-scope';

const playing = (toSamples: number) =>
  editionOf([{ kind: 'play', take: 'take-one' as TakeId, fromSamples: 0, toSamples, pace: 1 } as Segment]);

describe('an edition', () => {
  it('of the school that says the same keeps what is there, and what can be undone', () => {
    const edition = useEdition();
    edition.put(playing(10), 'school');
    edition.put(playing(5), 'edited');
    const { now } = edition;
    edition.put(playing(5), 'school');
    expect(edition.now).toBe(now);
    expect(edition.past).toHaveLength(1);
    // Of one that says something else, the equal parts are kept.
    edition.put({ ...playing(5), sound: { isEvened: false, isQuieted: true } }, 'school');
    expect(edition.now).not.toBe(now);
    expect(edition.now.programme).toBe(now.programme);
    expect(edition.past).toEqual([]);
  });

  it('is undone and made again, in any order, and nothing is undone that came from elsewhere', () => {
    const acts = fc.constantFrom<'edit' | 'undo' | 'redo' | 'take' | 'elsewhere'>(
      'edit',
      'undo',
      'redo',
      'take',
      'elsewhere',
    );
    fc.assert(
      fc.property(fc.array(acts, { maxLength: 40 }), (all) => {
        useOtherwise(new LessonScope());
        const edition = useEdition();
        let length = 1;
        let [past, now, future] = [[] as number[], 0, [] as number[]];
        const put = (to: number, from: EditionFrom) => edition.put(playing((now = to)), from);
        put(length++, 'school');
        for (const act of all) {
          if (act === 'edit') {
            past = [...past, now];
            future = [];
            put(length++, 'edited');
          } else if (act === 'undo' && past.length > 0) {
            future = [...future, now];
            const [to] = past.slice(-1);
            past = past.slice(0, -1);
            put(to, 'undone');
          } else if (act === 'redo' && future.length > 0) {
            past = [...past, now];
            const [to] = future.slice(-1);
            future = future.slice(0, -1);
            put(to, 'redone');
          } else if (act === 'take' || act === 'elsewhere') {
            past = future = [];
            put(length++, act === 'take' ? 'recorded' : 'school');
          }
          expect(edition.now).toEqual(playing(now));
          expect(edition.past).toEqual(past.map(playing));
          expect(edition.future).toEqual(future.map(playing));
        }
      }),
    );
  });
});
