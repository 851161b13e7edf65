import { z } from 'zod';
import { part } from './edition';
import { assetId, base64, line } from './primitives';

/** A file is sent in parts of this many bytes; only the last may be shorter. */
export const UPLOAD_PART_BYTES = 256 * 1024;

/** The largest file there is: a voice of seventeen hours. A picture or a PDF may be far smaller. */
export const LARGEST_UPLOAD_BYTES = 512 * 2 ** 20;

export const uploadPartCount = (sizeBytes: number): number => Math.ceil(sizeBytes / UPLOAD_PART_BYTES);

/** Which parts of a file have come; `isHad`: the teacher has it already, and need not send it. */
export const arrivedParts = z.object({ parts: z.array(z.int().min(0)), isHad: z.boolean() });

/** Gives a lesson a file whose parts have come. */
export const newFile = z.object({ asset: assetId, name: line.max(500) });

/** How loud a voice is, for whoever sees its map: so many steps at the most. */
export const MOST_LOUDNESS_STEPS = 6000;

/**
 * What is published with a programme: its sound, whose parts have come, or `null` where nobody speaks; how loud it is, a byte a step;
 * and which part of it, where it is not the whole.
 */
export const newPublication = z
  .object({
    sound: assetId.nullable().default(null),
    loudness: base64.max(Math.ceil(MOST_LOUDNESS_STEPS / 3) * 4).default(''),
    part: part.nullable().default(null),
  })
  .default({ sound: null, loudness: '', part: null });
