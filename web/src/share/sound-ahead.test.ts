import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, shallowReactive, type EffectScope } from 'vue';
import { turn } from '../testing/turn';
import { useSoundAhead } from './sound-ahead';

const { school, made } = vi.hoisted(() => ({
  school: { speaks: true },
  made: [] as { programme: unknown; signal: AbortSignal }[],
}));
const lesson = shallowReactive({
  lengthSamples: 48_000,
  programme: ['as it was'] as unknown,
  document: { link: null as { upToDate: boolean } | null },
});
vi.mock('../device/idle', () => ({ idle: async () => {} }));
vi.mock('../lesson/lesson', () => ({ useLesson: () => lesson }));
vi.mock('../lesson/voices', () => ({
  useVoices: () => ({
    served: async (programme: unknown) => ({ programme, voices: new Map(school.speaks ? [['take', 'url']] : []) }),
  }),
}));
vi.mock('../playback/served-sound', () => ({
  soundFileOf: async ({ programme }: { programme: unknown }, _: string, { signal }: { signal: AbortSignal }) =>
    made.push({ programme, signal }),
}));

let share: EffectScope;
async function openShare() {
  share = effectScope();
  share.run(useSoundAhead);
  await turn();
}

beforeEach(() => {
  made.length = 0;
  school.speaks = true;
  vi.stubGlobal('navigator', {});
  Object.assign(lesson, { lengthSamples: 48_000, programme: ['as it was'], document: { link: null } });
});

afterEach(() => {
  share.stop();
  vi.unstubAllGlobals();
});

describe('the sound of a lesson that may be shared', () => {
  it('is made ahead, and given up by whoever leaves', async () => {
    await openShare();
    expect(made.map(({ programme, signal }) => [programme, signal.aborted])).toEqual([[['as it was'], false]]);
    share.stop();
    expect(made[0].signal.aborted).toBe(true);
  });

  it('is made anew where the lesson changes', async () => {
    await openShare();
    lesson.programme = ['as it is now'];
    await turn();
    expect(made.map(({ programme, signal }) => [programme, signal.aborted])).toEqual([
      [['as it was'], true],
      [['as it is now'], false],
    ]);
  });

  it.each<[string, () => void]>([
    ['its link leads to it as it is', () => (lesson.document = { link: { upToDate: true } })],
    ['nothing is recorded yet', () => (lesson.lengthSamples = 0)],
    ['nobody speaks in it', () => (school.speaks = false)],
    ['its teacher pays by the byte', () => vi.stubGlobal('navigator', { connection: { saveData: true } })],
  ])('is not made where %s', async (_, set) => {
    set();
    await openShare();
    expect(made).toEqual([]);
  });
});
