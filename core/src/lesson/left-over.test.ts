import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeMarks, encodeMarks } from '../formats/marks-coding';
import { marks as anyMarks } from '../testing/arbitraries';
import type { PageId, PieceId } from './ids';
import { leftOver } from './left-over';
import type { Mark } from './mark';
import { withNext } from './merge';

const PAGE = 'page-of-tides' as PageId;
const lift = (id: string): Mark => ({ kind: 'lift', page: PAGE, pieceIds: [id as PieceId], atSamples: 0 });
/** Marks as they are stored between takes. */
const stored = anyMarks.map((marks) => decodeMarks(encodeMarks(marks)).map((mark) => ({ ...mark, atSamples: 0 })));
/** As a window gathers them to begin a take. */
const gathered = (marks: readonly Mark[]) => marks.reduce<readonly Mark[]>(withNext, []);

const idsPut = (marks: readonly Mark[]): string[] =>
  marks.flatMap((mark) => {
    if (mark.kind === 'ink') return [mark.stroke.id as string];
    if (mark.kind === 'place') return mark.pieces.map(({ id }) => id as string);
    return mark.kind === 'add-page' ? [mark.page.id as string] : [];
  });

describe('what a take leaves for the next', () => {
  it('is nothing where the take begins with all of it', () => {
    fc.assert(
      fc.property(stored, (waiting) => {
        expect(leftOver(waiting, gathered(waiting), [])).toEqual([]);
      }),
    );
  });

  it('is all that the take does not put there, whoever made it', () => {
    fc.assert(
      fc.property(stored, stored, (waiting, opening) => {
        const left = leftOver(waiting, gathered(opening), []);
        const there = new Set(idsPut([...opening, ...left]));
        expect(idsPut(waiting).filter((id) => !there.has(id))).toEqual([]);
      }),
    );
  });

  it('is nothing that the take puts there already, though it seems to be another window’s', () => {
    fc.assert(
      fc.property(stored, (waiting) => {
        // Where moves were gathered into one, those before it are not known again.
        expect(idsPut(leftOver(waiting, gathered(waiting), waiting))).toEqual([]);
      }),
    );
  });

  it('is in its order, and part of what waited', () => {
    fc.assert(
      fc.property(stored, stored, stored, (waiting, opening, others) => {
        const left = leftOver(waiting, opening, others);
        expect(waiting.filter((mark) => left.includes(mark))).toEqual(left);
      }),
    );
  });

  it('has what others changed meanwhile, and what was done to something the take lacks', () => {
    const waiting = [lift('own'), lift('of-another')];
    expect(leftOver(waiting, [], [lift('of-another')])).toEqual([lift('of-another')]);
    const placed: Mark = { kind: 'place', page: PAGE, pieces: [{ id: 'knot' } as never], atSamples: 0 };
    const after = lift('knot');
    expect(leftOver([lift('own'), placed, after], [lift('own')], [])).toEqual([placed, after]);
  });
});
