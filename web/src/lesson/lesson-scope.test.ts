import { describe, expect, it, vi } from 'vitest';
import { nextTick, onScopeDispose, ref, watch } from 'vue';
import { LessonScope, ofLesson, useOtherwise } from './lesson-scope';

const ended = vi.fn();
const useClock = ofLesson(() => {
  const ticks = ref(0);
  onScopeDispose(ended);
  return { ticks };
});
const watched = vi.fn();
const useReader = ofLesson(() => {
  const clock = useClock();
  watch(() => clock.ticks, watched);
  return { read: () => clock.ticks };
});

function opened(): LessonScope {
  const scope = new LessonScope();
  useOtherwise(scope);
  return scope;
}

describe('a part of an open lesson', () => {
  it('is made once, and is the same for whoever asks', () => {
    opened();
    useClock().ticks++;
    expect(useReader().read()).toBe(1);
    expect(useClock()).toBe(useClock());
  });

  it('is another one in another lesson, also for the parts that ask for it', () => {
    const first = opened();
    useClock().ticks = 5;
    opened();
    expect(useReader().read()).toBe(0);
    expect(first.within(() => useReader().read())).toBe(5);
    expect(useReader().read()).toBe(0);
  });

  it('ends with the lesson: nothing of it is watched any more', async () => {
    const scope = opened();
    const clock = useClock();
    useReader();
    clock.ticks++;
    await nextTick();
    expect(watched).toHaveBeenCalledOnce();
    scope.end();
    expect(ended).toHaveBeenCalledOnce();
    clock.ticks++;
    await nextTick();
    expect(watched).toHaveBeenCalledOnce();
  });
});
