import { describe, expect, it } from 'vitest';
import { chapterFrom, stepFrom } from './steps';

const chapters = [0, 480_000, 960_000].map((startSamples) => ({ startSamples, title: '' }));

describe('a step', () => {
  it('leads to the next moment, or to the one before', () => {
    expect(stepFrom([10, 20, 30], 20, 1)).toBe(30);
    expect(stepFrom([10, 20, 30], 20, -1)).toBe(10);
    expect(stepFrom([10, 20, 30], 30, 1)).toBe(null);
    expect(stepFrom([], 0, -1)).toBe(null);
  });

  it('back from just after a chapter began leads to the chapter before', () => {
    expect(chapterFrom(chapters, 500_000, -1)).toBe(0);
    expect(chapterFrom(chapters, 700_000, -1)).toBe(480_000);
    expect(chapterFrom(chapters, 480_000, 1)).toBe(960_000);
  });
});
