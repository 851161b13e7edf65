import { z } from 'zod';
import { FRAMES_A_PART } from '../film/frames';
import { FILM_CODECS, filmSettings } from '../film/settings';
import { captionText } from './edition';
import { assetId, captionId, line, samples } from './primitives';

/** What the school's server can encode films as: nothing where it has no encoder. */
export const filmCodecs = z.array(z.enum(FILM_CODECS));

const MOST_FRAMES = 2 ** 32;
const MOST_CUES = 2000;
const LONGEST_NAME = 500;

const cue = z.object({ id: captionId, startSamples: samples, endSamples: samples, text: captionText });
const frame = z.int().min(0).max(MOST_FRAMES);
const isAscending = (frames: readonly number[]) => frames.every((one, n) => n === 0 || one > frames[n - 1]);

/** A part of a film that is painted and encoded by the school's server. */
export const wantedFilmPart = z.object({
  /** All that is written and shown (`core/formats/payload`): a file of this name has come. */
  payload: assetId,
  settings: filmSettings,
  shows: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('title'), title: line.max(LONGEST_NAME) }),
    z.object({
      kind: z.literal('frames'),
      frames: z.array(frame).min(1).max(FRAMES_A_PART).refine(isAscending, 'Frames come one after the other.'),
      untilSeconds: z.number().min(0).max(MOST_FRAMES),
      /** What is drawn into the picture while it lasts. */
      cues: z.array(cue).max(MOST_CUES),
    }),
  ]),
});
export type WantedFilmPart = z.output<typeof wantedFilmPart>;
