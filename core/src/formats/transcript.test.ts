import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { writeMarkdown, writeTranscript, type Transcript } from './transcript';

const lesson: Transcript = {
  title: 'From chart to compass',
  chapters: [{ startSeconds: 10, title: 'Variation *and* deviation' }],
  lines: [
    { kind: 'said', startSeconds: 12, text: 'Two things\nturn a needle.' },
    { kind: 'said', startSeconds: 15, text: 'Both have names.' },
    { kind: 'written', startSeconds: 20, text: '075° T\n# 4° W' },
    { kind: 'said', startSeconds: 1, text: 'You have drawn your course.' },
  ],
};

describe('a lesson in words', () => {
  it('is a text with times', () => {
    expect(writeTranscript(lesson)).toBe(
      [
        'From chart to compass',
        '[00:00:01] You have drawn your course.',
        'Variation *and* deviation\n\n[00:00:12] Two things turn a needle.\n[00:00:15] Both have names.\n[00:00:20] On the page: 075° T # 4° W\n',
      ].join('\n\n'),
    );
  });

  it('is Markdown, in which everything means itself', () => {
    expect(writeMarkdown(lesson)).toBe(
      [
        '# From chart to compass',
        'You have drawn your course\\.',
        '## Variation \\*and\\* deviation',
        'Two things turn a needle\\. Both have names\\.',
        '> 075° T  \n> \\# 4° W\n',
      ].join('\n\n'),
    );
  });

  it('has all words, in their order, whatever they are', () => {
    const line = fc.record({
      kind: fc.constantFrom('said' as const, 'written' as const),
      startSeconds: fc.double({ min: 0, max: 40_000, noNaN: true }),
      text: fc.string({ unit: 'binary', maxLength: 40 }),
    });
    const chapter = fc.record({ startSeconds: fc.double({ min: 0, max: 40_000, noNaN: true }), title: fc.string() });
    fc.assert(
      fc.property(fc.array(line), fc.array(chapter), fc.string(), (lines, chapters, title) => {
        const given = { title, chapters, lines };
        const [text, markdown] = [writeTranscript(given), writeMarkdown(given).replace(/\\(?=[!-/:-@[-`{-~])/g, '')];
        let [inText, inMarkdown] = [0, 0];
        for (const { text: said } of [...lines].sort((a, b) => a.startSeconds - b.startSeconds)) {
          for (const word of said.split(/\s+/).filter(Boolean)) {
            inText = text.indexOf(word, inText);
            expect(inText).toBeGreaterThanOrEqual(0);
            const bare = word.replace(/\\(?=[!-/:-@[-`{-~])/g, '');
            inMarkdown = markdown.indexOf(bare, inMarkdown);
            expect(inMarkdown).toBeGreaterThanOrEqual(0);
          }
        }
      }),
    );
  });
});
