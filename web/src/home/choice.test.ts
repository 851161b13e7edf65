import type { LessonId } from '@kite-trail/core/lesson/ids';
import { describe, expect, it } from 'vitest';
import { ref } from 'vue';
import { useChoice } from './choice';

const [a, b, c, d] = ['a', 'b', 'c', 'd'] as LessonId[];

describe('choosing lessons', () => {
  it('chooses one by one, with Shift all in between, and lets go in the same way', () => {
    const choice = useChoice(() => [a, b, c, d]);
    choice.set(b, true, false);
    choice.set(d, true, true);
    expect(choice.ids.value).toEqual([b, c, d]);
    choice.set(c, false, true);
    expect(choice.ids.value).toEqual([b]);
    choice.all();
    expect(choice.ids.value).toEqual([a, b, c, d]);
    choice.none();
    expect(choice.ids.value).toEqual([]);
  });

  it('chooses nothing that is not seen any more, and not from it on', () => {
    const seen = ref([a, b, c]);
    const choice = useChoice(() => seen.value);
    choice.set(b, true, false);
    seen.value = [a, c];
    expect(choice.ids.value).toEqual([]);
    choice.set(c, true, true);
    expect(choice.ids.value).toEqual([c]);
  });
});
