import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { archivedLesson, assetsOfArchived, type ArchivedLesson } from '../contract/archive';
import { NOTHING_SAID } from '../contract/lesson';
import type { AssetId, CaptionId, LessonId, PieceId, PromptId, TakeId } from '../lesson/ids';
import { base, programme, takeIds } from '../testing/arbitraries';
import { takesIn } from './programme';
import { salvage } from './salvage';

const asset = (n: number) => n.toString(16).padStart(64, '0') as AssetId;
const at = '2026-11-30T09:00:00.000Z';
const LENGTH = 480_000;

/** Lessons with two recordings, a chart in a PDF, and edits of all kinds about both recordings. */
const lesson: fc.Arbitrary<ArchivedLesson> = fc.tuple(programme, programme).map(([played, named]) => {
  const edition = (plays: typeof played) => ({
    programme: [...plays],
    inkEdits: takeIds.map((take) => ({ stroke: 'stroke-1' as PieceId, at: { take, atSamples: 0 } })),
    chapters: takeIds.map((take) => ({ take, atSamples: 0, title: 'Bearings' })),
    captions: [
      {
        id: 'caption-1' as CaptionId,
        text: 'Ease',
        spans: takeIds.map((take) => ({ take, fromSamples: 0, toSamples: 9 })),
      },
    ],
    prompts: takeIds.map((take, n) => ({
      id: `prompt-${n}1` as PromptId,
      take,
      atSamples: 0,
      question: 'Why?',
      answer: '',
    })),
    sound: { isEvened: true, isQuieted: false },
  });
  return archivedLesson.parse({
    id: 'lesson-one' as LessonId,
    title: 'Knots',
    about: NOTHING_SAID,
    source: null,
    madeAt: at,
    pages: base.pages.map(({ page }) => ({ page, pieces: '' })),
    between: '',
    takes: takeIds.map((id: TakeId, n) => ({
      ...{ id, name: '', startedAt: at, lengthSamples: LENGTH, hasSound: true, isBinned: false },
      plan: n === 0 ? { kind: 'carry-on' } : { kind: 'retake', fromSamples: 0, replaced: [...named] },
      ...{ marks: asset(3 * n), sound: asset(3 * n + 1), profile: asset(3 * n + 2) },
    })),
    edition: edition(played),
    versions: [{ name: 'Long one', madeAt: at, lengthSamples: LENGTH, edition: edition(named) }],
    files: [{ asset: asset(10), name: 'chart.pdf' }],
    sheets: [{ asset: asset(10), pageIndex: 0, picture: asset(11) }],
  } satisfies Record<keyof ArchivedLesson, unknown>);
});
const missing = fc.uniqueArray(fc.constantFrom(0, 1, 2, 3, 4, 5, 10, 11)).map((all) => new Set(all.map(asset)));

const named = (value: unknown): string[] =>
  JSON.stringify(value)
    .match(/"take":"[^"]+"/g)
    ?.map((one) => one.slice(8, -1)) ?? [];

describe('what is left of a lesson', () => {
  it('names nothing that is gone, plays nothing of it, and is a lesson', () => {
    fc.assert(
      fc.property(lesson, missing, (whole, gone) => {
        const { lesson: left, lost } = salvage(whole, gone);
        expect(() => archivedLesson.parse(left)).not.toThrow();
        for (const one of assetsOfArchived(left).keys()) expect(gone.has(one)).toBe(false);
        const there = new Set<string>(left.takes.map(({ id }) => id));
        for (const { edition } of [left, ...left.versions]) {
          for (const take of takesIn(edition.programme)) expect(there.has(take)).toBe(true);
        }
        expect(named(left).filter((take) => !there.has(take))).toEqual([]);
        expect(lost.length > 0).toBe([0, 1, 3, 4, 10].some((n) => gone.has(asset(n))));
      }),
    );
  });

  it('is all of it where nothing is missing', () => {
    fc.assert(
      fc.property(lesson, (whole) => {
        expect(salvage(whole, new Set())).toEqual({ lesson: whole, lost: [] });
      }),
    );
  });
});
