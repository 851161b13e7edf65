import { expect, it } from 'vitest';
import type { CaptionId, PageId, PieceId, TakeId } from '../lesson/ids';
import type { Mark } from '../lesson/mark';
import { NOTHING_EDITED, type Edition } from './edition';
import { giveAway } from './given-away';

const [heard, paged, pageless, forgotten, moved] = ['heard', 'paged', 'pageless', 'forgotten', 'moved'] as TakeId[];
const stretch = { fromSamples: 0, toSamples: 48_000 };
const caption = (id: string, ...takes: TakeId[]) => ({
  id: id as CaptionId,
  text: `Of ${id}`,
  spans: takes.map((take) => ({ take, ...stretch })),
});
const turn: Mark = { kind: 'turn', atSamples: 10, page: 'first' as PageId };
const move: Mark = { kind: 'move-page', atSamples: 20, page: 'second' as PageId, after: null };

const edition: Edition = {
  ...NOTHING_EDITED,
  programme: [
    { kind: 'play', take: heard, ...stretch, pace: 1 },
    { kind: 'pages', take: paged, ...stretch },
    { kind: 'pages', take: pageless, ...stretch },
  ],
  inkEdits: [{ stroke: 'one' as PieceId, at: { take: moved, atSamples: 0 } }],
  chapters: [
    { take: heard, atSamples: 0, title: 'Splices' },
    { take: paged, atSamples: 0, title: 'A slip' },
  ],
  captions: [caption('a', heard), caption('b', paged), caption('c', forgotten, heard)],
};

it('gives away the takes that play, of others their pages at most, and no words that were thrown away', () => {
  const binned = [paged, pageless, forgotten, moved].map((take) => [take, [turn]] as [TakeId, Mark[]]);
  const given = giveAway(edition, new Map<TakeId, Mark[]>([...binned, [paged, [turn, move]]]));
  expect([...given.kept]).toEqual([pageless, forgotten]);
  expect([...given.hollow]).toEqual([
    [paged, [move]],
    [moved, []],
  ]);
  expect(given.edition.programme).toEqual(edition.programme.slice(0, 2));
  expect(given.edition.chapters.map(({ title }) => title)).toEqual(['Splices']);
  expect(given.edition.captions).toEqual([caption('a', heard), caption('c', heard)]);
});

it('gives away whole a take that is in the bin and plays all the same', () => {
  expect(giveAway(edition, new Map([[heard, [turn, move]]]))).toEqual({ edition, kept: new Set(), hollow: new Map() });
});
