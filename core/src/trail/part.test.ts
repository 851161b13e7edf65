import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TakeId } from '../lesson/ids';
import { programme as anyProgramme } from '../testing/arbitraries';
import { cut, repeated, trim, whole } from './edit';
import { partBetween, placePart } from './part';
import { programmeLength } from './programme';

const SECOND = 48_000;
const programme = [whole({ id: 'take' as TakeId, lengthSamples: 60 * SECOND })];
const at = (from: number, to: number) => ({ fromSamples: from * SECOND, toSamples: to * SECOND });
const part = partBetween(programme, at(20, 40));

describe('a part of a lesson', () => {
  it('is found where it has gone after edits', () => {
    expect(placePart(programme, part)).toEqual(at(20, 40));
    expect(placePart(trim(programme, 10 * SECOND, 60 * SECOND), part)).toEqual(at(10, 30));
    expect(placePart(cut(programme, at(25, 30), 'keep'), part)).toEqual(at(20, 35));
    expect(placePart(repeated(programme, at(30, 35)), part)).toEqual(at(20, 45));
    expect(placePart(cut(programme, at(15, 45), 'drop'), part)).toBe(null);
  });

  it('lies within the programme whatever was made of it', () => {
    fc.assert(
      fc.property(anyProgramme, anyProgramme, fc.nat(1000), fc.nat(1000), (before, after, one, other) => {
        const length = programmeLength(before);
        const [from, to] = [one, other].sort((x, y) => x - y).map((share) => Math.round((share / 1000) * length));
        const placed = placePart(after, partBetween(before, { fromSamples: from, toSamples: to }));
        if (!placed) return;
        expect(placed.fromSamples).toBeGreaterThanOrEqual(0);
        expect(placed.toSamples).toBeGreaterThan(placed.fromSamples);
        expect(placed.toSamples).toBeLessThanOrEqual(programmeLength(after));
      }),
    );
  });
});
