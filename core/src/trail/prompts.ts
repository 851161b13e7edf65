import type { PromptId } from '../lesson/ids';
import type { TakeMoment } from './ink-edits';
import { placeSegments, toProgramme, type PlacedSegment, type Programme } from './programme';

/** Where playback halts with a question, until whoever watches goes on. */
export interface Prompt extends TakeMoment {
  id: PromptId;
  question: string;
  /** What the teacher would say; empty where that is left open. */
  answer: string;
}

/** A prompt where it halts, in samples of the programme. */
export interface PlacedPrompt {
  prompt: Prompt;
  atSamples: number;
}

/**
 * Where prompts halt, in order. A moment that plays more than once halts where it plays first; one that takes no time, or has been
 * cut out, nowhere. The end of a stretch is a moment of it where nothing goes on from there.
 */
export function placePrompts(programme: Programme, prompts: readonly Prompt[]): PlacedPrompt[] {
  const placed = placeSegments(programme);
  const placedPrompt = (prompt: Prompt): PlacedPrompt[] => {
    const at = placed.find((one) => holds(one, prompt)) ?? placed.find((one) => endsAt(one, prompt));
    return at ? [{ prompt, atSamples: toProgramme(at, prompt.atSamples) }] : [];
  };
  return prompts.flatMap(placedPrompt).sort((a, b) => a.atSamples - b.atSamples);
}

function holds({ segment }: PlacedSegment, { take, atSamples }: TakeMoment): boolean {
  if (segment.take !== take) return false;
  if (segment.kind === 'still') return segment.atSamples === atSamples;
  return segment.kind === 'play' && segment.fromSamples <= atSamples && atSamples < segment.toSamples;
}

const endsAt = ({ segment }: PlacedSegment, { take, atSamples }: TakeMoment): boolean =>
  segment.kind === 'play' && segment.take === take && segment.toSamples === atSamples;
