import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { Segment } from '@kite-trail/core/trail/programme';
import type { Person } from './browser';
import { findClicks } from './clicks';
import { bytesAt, openLesson } from './lessons';
import { decodeSound } from './video';

const folder = mkdtempSync(join(tmpdir(), 'kite-trail-e2e-'));

/** When clicks are heard in a sound that the server gives, as ffmpeg decodes it. */
export async function clicksAt(person: Person, path: string): Promise<number[]> {
  const file = join(folder, 'heard');
  writeFileSync(file, await bytesAt(person, path));
  return findClicks(decodeSound(file), CLOCK_HZ);
}

/** When the clicks of a take's own sound are heard in it. */
export const clicksOf = (person: Person, take: string) => clicksAt(person, `/takes/${take}/sound`);

/** How long a segment plays, in seconds, worked out beside the product. */
export function secondsOf(segment: Segment): number {
  if (segment.kind === 'still') return segment.forSamples / CLOCK_HZ;
  return segment.kind === 'play' ? (segment.toSamples - segment.fromSamples) / segment.pace / CLOCK_HZ : 0;
}

/** Whose voice is heard, and from where: its own take's where it plays as recorded and nobody speaks over it. */
function heardOf(segment: Segment): { take: string; fromSamples: number } | null {
  if (segment.kind !== 'play' && segment.kind !== 'still') return null;
  if (segment.voice !== undefined) return segment.voice;
  return segment.kind === 'play' && segment.pace === 1 ? segment : null;
}

/** Where the programme's segments are heard: the clicks of their voices, worked out from the takes alone. */
export async function meantClicks(person: Person): Promise<number[]> {
  const { edition, takes } = await openLesson(person);
  const meant: number[] = [];
  let at = 0;
  for (const segment of edition.programme) {
    const seconds = secondsOf(segment);
    const heard = heardOf(segment);
    const from = (heard?.fromSamples ?? 0) / CLOCK_HZ;
    if (heard && takes.find(({ id }) => id === heard.take)?.hasSound) {
      for (const click of await clicksOf(person, heard.take)) {
        if (click >= from && click < from + seconds) meant.push(at + click - from);
      }
    }
    at += seconds;
  }
  return meant;
}

/** When a moment of a take plays: at once where its stretch takes no time, `null` where it does not play. */
export function playsAt(programme: readonly Segment[], take: string, takeSeconds: number): number | null {
  let at = 0;
  for (const segment of programme) {
    if ((segment.kind === 'play' || segment.kind === 'at-once') && segment.take === take) {
      const [from, to] = [segment.fromSamples / CLOCK_HZ, segment.toSamples / CLOCK_HZ];
      const isIn = takeSeconds >= from && takeSeconds < to;
      if (isIn) return segment.kind === 'play' ? at + (takeSeconds - from) / segment.pace : at;
    }
    at += secondsOf(segment);
  }
  return null;
}
