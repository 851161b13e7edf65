import { describe, expect, it } from 'vitest';
import type { CaptionId, PieceId, PromptId, TakeId } from '../lesson/ids';
import type { Edition } from './edition';
import { withTakesRenamed } from './renamed-takes';

const [a, b, z] = ['take-a', 'take-b', 'take-z'] as TakeId[];

const edition = (one: TakeId, two: TakeId): Edition => ({
  programme: [
    { kind: 'play', take: one, fromSamples: 0, toSamples: 9, pace: 1, voice: { take: two, fromSamples: 3 } },
    { kind: 'still', take: two, atSamples: 4, forSamples: 5, voice: null },
    { kind: 'at-once', take: z, fromSamples: 0, toSamples: 2 },
  ],
  inkEdits: [
    { stroke: 'take' as PieceId, at: { take: one, atSamples: 2 } },
    { stroke: 's' as PieceId, at: 'start', color: '#000000' },
  ],
  chapters: [{ take: two, atSamples: 1, title: 'take-a' }],
  captions: [{ id: 'take-a' as CaptionId, text: 'take-a', spans: [{ take: one, fromSamples: 0, toSamples: 1 }] }],
  prompts: [{ id: 'take-a' as PromptId, take: two, atSamples: 2, question: 'take-a', answer: 'take-b' }],
  sound: { isEvened: true, isQuieted: false },
});

describe('an edition about takes of other names', () => {
  it('plays those, and says all else as it was', () => {
    const [c, d] = ['take-c', 'take-d'] as TakeId[];
    const renamed = withTakesRenamed(
      edition(a, b),
      new Map([
        [a, c],
        [b, d],
      ]),
    );
    expect(renamed).toEqual(edition(c, d));
  });

  it('may swap names', () => {
    const swapped = new Map([
      [a, b],
      [b, a],
    ]);
    expect(withTakesRenamed(edition(a, b), swapped)).toEqual(edition(b, a));
    expect(withTakesRenamed(edition(a, b), new Map())).toEqual(edition(a, b));
  });
});
