import { describe, expect, it } from 'vitest';
import { nextTick, ref } from 'vue';
import { useNotices } from './notices';

describe('what the teacher is told', () => {
  it('is one thing at a time: what went wrong before what is good to know, and of equals the newest', async () => {
    const notices = useNotices();
    const [early, late, wrong] = [notices.place('news'), notices.place('news'), notices.place('problem')];
    const shown = async () => {
      await nextTick();
      return notices.shown?.text;
    };
    late.value = 'told first';
    await nextTick();
    early.value = 'told last';
    expect(await shown()).toBe('told last');
    wrong.value = 'broken';
    expect([await shown(), notices.shown?.kind]).toEqual(['broken', 'problem']);
    wrong.value = null;
    expect(await shown()).toBe('told last');
    early.value = null;
    expect(await shown()).toBe('told first');
    notices.dismiss();
    expect([notices.shown, late.value]).toEqual([null, null]);
  });

  it('is told for as long as it is so, and, once dismissed, not again until it was otherwise', async () => {
    const notices = useNotices();
    const isAway = ref(true);
    notices.tellWhile('news', () => (isAway.value ? 'The microphone is away.' : null));
    expect(notices.shown?.text).toBe('The microphone is away.');
    notices.dismiss();
    expect(notices.shown).toBeNull();
    isAway.value = false;
    await nextTick();
    isAway.value = true;
    await nextTick();
    expect(notices.shown?.text).toBe('The microphone is away.');
  });

  it('stays where nothing else can be done meanwhile', () => {
    const notices = useNotices();
    notices.tellWhile('news', () => 'It is recorded elsewhere.', { stays: true });
    notices.dismiss();
    expect(notices.shown?.text).toBe('It is recorded elsewhere.');
  });
});
