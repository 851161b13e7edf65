import type { PromptId } from '../lesson/ids';
import type { TakeMoment } from './ink-edits';
import { placeSegments, whenPlayed, type Programme } from './programme';

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

/** Where prompts halt, in order: each where its moment plays first; one whose moment has been cut out, nowhere. */
export function placePrompts(programme: Programme, prompts: readonly Prompt[]): PlacedPrompt[] {
  const placed = placeSegments(programme);
  return prompts
    .flatMap((prompt): PlacedPrompt[] => {
      const atSamples = whenPlayed(placed, prompt);
      return atSamples === null ? [] : [{ prompt, atSamples }];
    })
    .sort((a, b) => a.atSamples - b.atSamples);
}
