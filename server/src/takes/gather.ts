import { encodeMarks } from '@kite-trail/core/formats/marks-coding';
import { encodeHeard } from '@kite-trail/core/formats/profile-coding';
import { decodeTakePart } from '@kite-trail/core/formats/take-part';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { assembleTake } from '@kite-trail/core/trail/assemble';
import type { Knex } from 'knex';
import { named, type NamedBytes } from '../assets/assets';
import type { TakePartRow } from '../database/rows';

/** A take's parts in one, as far as they follow one another. */
export interface GatheredTake {
  lengthSamples: number;
  marks: NamedBytes;
  /** Those it begins with, in the same bytes. */
  opening: Uint8Array;
  /** Ogg Opus; `null` where nothing was heard of it. */
  sound: NamedBytes | null;
  profile: NamedBytes | null;
  /** How many parts are in it. */
  partCount: number;
  /** How many parts there were: where there are others by now, this is not the take any more. */
  seenParts: number;
}

/** Joins the parts of a take. @param isWhole all that was written is in it; else what was being written at its end is, too */
export async function gatherTake(
  db: Knex,
  { take, isWhole }: { take: TakeId; isWhole: boolean },
): Promise<GatheredTake> {
  const rows = await db<TakePartRow>('take_parts').where({ take_id: take }).orderBy('n');
  const gap = rows.findIndex((row, i) => row.n !== i);
  const unbroken = gap < 0 ? rows : rows.slice(0, gap);
  const parts = unbroken.map((row) => decodeTakePart(row.bytes));
  const { lengthSamples, marks, sound, heard } = assembleTake(parts, isWhole);
  return {
    lengthSamples,
    marks: named(encodeMarks(marks)),
    opening: encodeMarks(marks.filter(({ atSamples }) => atSamples === 0)),
    sound: sound.length > 0 ? named(sound) : null,
    profile: heard.peaks.length > 0 ? named(encodeHeard(heard)) : null,
    partCount: unbroken.length,
    seenParts: rows.length,
  };
}
