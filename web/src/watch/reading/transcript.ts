import type { Watch } from '@kite-trail/core/contract/watch';
import type { TimedText } from '@kite-trail/core/formats/timed-text';
import type { SeenText } from '@kite-trail/core/search/typed';
import { msToSamples } from '@kite-trail/core/trail/clock';

export type TranscriptLine = { kind: 'said'; said: TimedText } | { kind: 'typed'; typed: SeenText };

export interface TranscriptPart {
  startSamples: number;
  /** Empty before the first chapter. */
  title: string;
  lines: TranscriptLine[];
}

const startOf = (line: TranscriptLine): number =>
  line.kind === 'said' ? msToSamples(line.said.startMs) : line.typed.atSamples;
/** What is said belongs to the chapter in which its middle is. */
const placeOf = (line: TranscriptLine): number =>
  line.kind === 'said' ? msToSamples((line.said.startMs + line.said.endMs) / 2) : line.typed.atSamples;
const textOf = (line: TranscriptLine): string => (line.kind === 'said' ? line.said.text : line.typed.text);

/**
 * All that is spoken and typed, in order, chapter by chapter.
 * @param sought words that every line has; empty for all
 */
export function transcriptOf(
  captions: readonly TimedText[],
  typed: readonly SeenText[],
  chapters: Watch['chapters'],
  sought: string,
): TranscriptPart[] {
  const words = sought.trim().toLocaleLowerCase();
  const lines = [
    ...captions.map((said): TranscriptLine => ({ kind: 'said', said })),
    ...typed.map((one): TranscriptLine => ({ kind: 'typed', typed: one })),
  ]
    .filter((line) => textOf(line).toLocaleLowerCase().includes(words))
    .sort((a, b) => startOf(a) - startOf(b));
  const starts = [{ startSamples: -1, title: '' }, ...chapters];
  return starts
    .map(({ startSamples, title }, i) => {
      const end = starts[i + 1]?.startSamples ?? Infinity;
      return {
        startSamples,
        title,
        lines: lines.filter((line) => placeOf(line) >= startSamples && placeOf(line) < end),
      };
    })
    .filter((part) => part.lines.length > 0 || (part.title !== '' && words === ''));
}
