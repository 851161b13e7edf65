import type { Mark } from '@kite-trail/core/lesson/mark';
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { HeardVoice } from '@kite-trail/core/sound/profile';
import { sortMarks } from '@kite-trail/core/trail/timeline';
import { readNarration } from './narration/files';
import { performBeats, type Script } from './teaching/script';

export interface RecordedTake {
  marks: Mark[];
  /** Ogg Opus. */
  sound: Uint8Array;
  lengthSamples: number;
  /** What was heard of it meanwhile, if anything. */
  heard?: HeardVoice;
}

/** A script as it was "recorded": the hand's marks on the narration's clock. */
export function recordedTake(script: Script): RecordedTake {
  const { sound, startsSamples, lengthSamples } = readNarration(script.name);
  const opening: Mark = { kind: 'turn', atSamples: 0, page: `${script.on ?? script.name}-page-1` as PageId };
  const marks = performBeats(script).flatMap(({ marks: own }, beat) =>
    own.map((mark): Mark => ({ ...mark, atSamples: mark.atSamples + startsSamples[beat] })),
  );
  return { marks: [opening, ...sortMarks(marks)], sound, lengthSamples };
}
