import { encodeHistory, NO_HISTORY } from '@kite-trail/core/formats/history-coding';
import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import type { AssetId, LessonId, TakeId } from '@kite-trail/core/lesson/ids';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import { marks, programme } from '@kite-trail/core/testing/arbitraries';
import { heardVoice } from '@kite-trail/core/testing/heard-voices';
import { encodeHeard } from '@kite-trail/core/formats/profile-coding';
import { NOTHING_EDITED } from '@kite-trail/core/trail/edition';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import type { Entry, EntryKey, Owed } from './entry';
import type { Kept } from './log';
import { NoSetAsideFile, readSetAside, writeSetAside } from './set-aside-file';

const TAKE = 'take-0001' as TakeId;
const entry = (owed: Owed, i: number): Kept => {
  const { payload, ...head } = owed;
  const made: Entry = {
    key: `entry-key-${i}` as EntryKey,
    order: i,
    teacher: 'teacher-one',
    lesson: 'lesson-one' as LessonId,
    window: 'window-one',
    madeIn: 'window-one',
    isLeft: false,
    head: head as never,
    state: 'set-aside',
    why: 'This cannot be.',
    atMs: 1000 + i,
  };
  return { entry: made, payload };
};

const PLAN = { kind: 'carry-on' } as const;
const part = fc
  .record({ marks, toSamples: fc.nat(), sound: fc.uint8Array() })
  .map(({ toSamples, ...own }) => encodeTakePart({ ...own, toSamples, unfinished: [], heard: NOTHING_HEARD }));
const owed: fc.Arbitrary<Owed> = fc.oneof(
  fc.uint8Array().map((bytes) => ({
    kind: 'file' as const,
    asset: 'a'.repeat(64) as AssetId,
    name: 'tide table.pdf',
    payload: new Blob([bytes as BlobPart]),
  })),
  marks.map((some) => ({
    kind: 'changes' as const,
    revision: 3,
    payload: { marks: encodeMarks(some), history: encodeHistory(NO_HISTORY) },
  })),
  fc.constant({ kind: 'take', take: TAKE, hasSound: true, plan: PLAN, beganAtMs: 5, payload: null } as const),
  part.map((payload) => ({ kind: 'part' as const, take: TAKE, n: 0, payload })),
  fc.constant({ kind: 'end', take: TAKE, parts: 1, recover: false, plan: PLAN, payload: null } as const),
  heardVoice.map((heard) => ({ kind: 'profile' as const, take: TAKE, payload: encodeHeard(heard) })),
  fc.constant({ kind: 'name', payload: { title: 'Tides' } } as const),
  fc.constant({ kind: 'hand-in', payload: { saidAt: '2026-11-29T09:00:00.000Z' } } as const),
  programme.map((segments) => ({
    kind: 'edit' as const,
    from: { n: 2, madeAt: 'then' },
    payload: { ...NOTHING_EDITED, programme: segments },
  })),
);

/** A payload that can be compared. */
const seen = async ({ payload, ...head }: Owed) => ({
  ...head,
  payload: payload instanceof Blob ? new Uint8Array(await payload.arrayBuffer()) : payload,
});

describe('a file of what was set aside', () => {
  it('reads back as it was written', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(owed, { minLength: 1, maxLength: 6 }), async (all) => {
        const bytes = await writeSetAside('This cannot be.', all.map(entry));
        const read = readSetAside(bytes);
        expect(await Promise.all(read.owed.map(seen))).toEqual(await Promise.all(all.map(seen)));
        expect(read.list).toMatchObject({ why: 'This cannot be.', lesson: 'lesson-one' });
        expect(read.list.entries.map(({ key }) => key)).toEqual(all.map((_, i) => `entry-key-${i}`));
      }),
    );
  });

  it('is a ZIP with a list that anybody can read', async () => {
    const take = { kind: 'take', take: TAKE, hasSound: true, plan: PLAN, beganAtMs: 5, payload: null } as const;
    const files = unzipSync(await writeSetAside('This cannot be.', [entry(take, 0)]));
    expect(JSON.parse(new TextDecoder().decode(files['set-aside.json']))).toMatchObject({
      form: 'set-aside',
      version: 1,
      entries: [{ head: { kind: 'take' } }],
    });
  });

  it('that is another file, or damaged, is refused with what to do', async () => {
    const good = await writeSetAside(
      '',
      fc.sample(part, { numRuns: 3, seed: 1 }).map((payload, n) => entry({ kind: 'part', take: TAKE, n, payload }, n)),
    );
    expect(() => readSetAside(good)).not.toThrow();
    expect(() => readSetAside(new TextEncoder().encode('no ZIP'))).toThrow(NoSetAsideFile);
    for (let at = 0; at < good.length; at += 7) {
      const bad = good.slice();
      bad[at] ^= 0x55;
      try {
        readSetAside(bad);
      } catch (error) {
        expect(error).toBeInstanceOf(NoSetAsideFile);
      }
    }
  });
});
