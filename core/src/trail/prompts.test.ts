import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { PromptId, TakeId } from '../lesson/ids';
import { programme as anyProgramme } from '../testing/arbitraries';
import { programmeLength, type Programme } from './programme';
import { placePrompts, type Prompt } from './prompts';

const [knot, splice] = ['knot', 'splice'] as TakeId[];
const prompt = (take: TakeId, atSamples: number): Prompt => ({
  id: `${take}-${atSamples}` as PromptId,
  take,
  atSamples,
  question: 'Which way does it go on?',
  answer: '',
});
const placed = (programme: Programme, ...prompts: Prompt[]) =>
  placePrompts(programme, prompts).map((one) => [one.prompt.id, one.atSamples]);

it('places prompts where their moments play, at their pace, and at the end of what they end', () => {
  const programme: Programme = [
    { kind: 'at-once', take: knot, fromSamples: 0, toSamples: 1000 },
    { kind: 'play', take: knot, fromSamples: 1000, toSamples: 3000, pace: 2 },
    { kind: 'still', take: splice, atSamples: 500, forSamples: 800 },
    { kind: 'play', take: splice, fromSamples: 500, toSamples: 900, pace: 1 },
  ];
  expect(
    placed(
      programme,
      prompt(splice, 900),
      prompt(splice, 500),
      prompt(knot, 3000),
      prompt(knot, 2000),
      prompt(knot, 500),
      prompt(splice, 901),
    ),
  ).toEqual([
    ['knot-2000', 500],
    ['splice-500', 1000],
    ['knot-3000', 1000],
    ['splice-900', 2200],
  ]);
});

it('places where a moment goes on rather than where it ends, and the first time alone', () => {
  const half = { kind: 'play', take: knot, pace: 1 } as const;
  const programme: Programme = [
    { ...half, fromSamples: 0, toSamples: 500 },
    { ...half, fromSamples: 800, toSamples: 900 },
    { ...half, fromSamples: 500, toSamples: 700 },
    { ...half, fromSamples: 500, toSamples: 700 },
  ];
  expect(placed(programme, prompt(knot, 500))).toEqual([['knot-500', 600]]);
});

it('places each prompt at most once and within whatever is played', () => {
  const moment = fc.record({ take: fc.constantFrom(knot, splice), atSamples: fc.nat() });
  fc.assert(
    fc.property(anyProgramme, fc.array(moment), (programme, moments) => {
      const takes = programme.map(({ take }) => take);
      const prompts = moments.map((one, i) => ({
        ...prompt(takes[i % Math.max(1, takes.length)] ?? one.take, one.atSamples),
        id: `p${i}` as PromptId,
      }));
      const found = placePrompts(programme, prompts);
      expect(new Set(found.map((one) => one.prompt.id)).size).toBe(found.length);
      for (const { atSamples } of found) {
        expect(atSamples).toBeGreaterThanOrEqual(0);
        expect(atSamples).toBeLessThanOrEqual(programmeLength(programme));
      }
    }),
  );
});
