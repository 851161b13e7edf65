import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { InkPoints } from '../ink/points';
import { decodeHistory } from './history-coding';
import { decodeMarks, decodePieces } from './marks-coding';
import { decodePayload } from './payload';
import { decodeHeard } from './profile-coding';
import { decodeTakePart } from './take-part';

const folder = new URL('./golden/', import.meta.url);
const READERS: Record<string, (bytes: Uint8Array) => unknown> = {
  marks: decodeMarks,
  pieces: decodePieces,
  history: decodeHistory,
  'take-part': decodeTakePart,
  payload: decodePayload,
  profile: decodeHeard,
};

/** Values as JSON has them: columns of numbers as arrays. */
const plain = (value: unknown): unknown =>
  JSON.parse(
    JSON.stringify(value, (_, one: unknown) => {
      if (one instanceof InkPoints) {
        const { xPt, yPt, pressure, sinceMs, tilt } = one;
        return { xPt, yPt, pressure, sinceMs, ...(tilt && { tilt }) };
      }
      return ArrayBuffer.isView(one) ? Array.from(one as Uint8Array) : one;
    }),
  );

/** Bytes that each version wrote, with what they say. None of these files is ever changed; each new version adds its own. */
const files = readdirSync(folder).filter((name) => name.endsWith('.bin'));

describe('bytes of every version', () => {
  it.each(files)('%s is read as it was meant', (name) => {
    const read = READERS[name.split('.')[0]](new Uint8Array(readFileSync(new URL(name, folder))));
    const meant: unknown = JSON.parse(readFileSync(new URL(name.replace('.bin', '.json'), folder), 'utf8'));
    expect(plain(read)).toEqual(meant);
  });

  it('are there of all versions of all forms', () => {
    // Behind the version may stand what else there is in it.
    const versionOf = (name: string) => name.split('.')[1].split('-')[0];
    const versions = (form: string) => new Set(files.filter((name) => name.startsWith(`${form}.`)).map(versionOf)).size;
    expect(Object.fromEntries(Object.keys(READERS).map((form) => [form, versions(form)]))).toEqual({
      marks: 4,
      pieces: 4,
      history: 3,
      'take-part': 4,
      payload: 4,
      profile: 3,
    });
  });
});
