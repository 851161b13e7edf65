import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readForm, type FormName } from '../contract/forms';
import { FormatError } from './bytes';
import { decodeHistory } from './history-coding';
import { decodeContents, decodeMarks } from './marks-coding';
import { decodePayload } from './payload';
import { decodeHeard } from './profile-coding';
import { decodeTakePart } from './take-part';
import { readTimedText } from './timed-text';

/**
 * Every reader, given what nobody wrote: bytes of every version so far, with bits turned, pieces cut out, doubled and mixed. It
 * reads something, or says that it cannot, by a `FormatError`; it never fails in another way, and never goes on for long.
 */
const GOLDEN = new URL('./golden/', import.meta.url);
const FORMS: FormName[] = [
  'programme',
  'ink-edits',
  'chapters',
  'captions',
  'sound',
  'edition',
  'plan',
  'page',
  'paper',
  'sheet',
  'scale',
];
const SEED = 20261128;
const RUNS = 400;

const READERS: Record<string, (bytes: Uint8Array) => unknown> = {
  marks: decodeMarks,
  pieces: decodeContents,
  history: decodeHistory,
  payload: decodePayload,
  profile: decodeHeard,
  'take-part': decodeTakePart,
};

const written = readdirSync(GOLDEN)
  .filter((name) => name.endsWith('.bin'))
  .map((name) => ({ kind: name.split('.')[0], bytes: new Uint8Array(readFileSync(new URL(name, GOLDEN))) }));

/** One thing that happens to bytes; places are shares of their length. */
const share = fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true });
const mishap = fc.oneof(
  fc.record({ kind: fc.constant('turn' as const), at: share, to: fc.nat(255) }),
  fc.record({ kind: fc.constant('cut' as const), at: share, length: fc.nat(40) }),
  fc.record({ kind: fc.constant('double' as const), at: share, length: fc.nat(40) }),
  fc.record({ kind: fc.constant('put' as const), at: share, bytes: fc.uint8Array({ maxLength: 12 }) }),
  // The largest whole number there can be, and more than that.
  fc.record({ kind: fc.constant('put' as const), at: share, bytes: fc.constant(new Uint8Array(10).fill(255)) }),
  fc.record({ kind: fc.constant('end' as const), at: share }),
);

function after(bytes: Uint8Array, happened: typeof mishap extends fc.Arbitrary<infer One> ? One : never): Uint8Array {
  const at = Math.floor(happened.at * bytes.length);
  const [head, tail] = [[...bytes.subarray(0, at)], [...bytes.subarray(at)]];
  switch (happened.kind) {
    case 'turn':
      return Uint8Array.from([...head, happened.to, ...tail.slice(1)]);
    case 'cut':
      return Uint8Array.from([...head, ...tail.slice(happened.length)]);
    case 'double':
      return Uint8Array.from([...head, ...tail.slice(0, happened.length), ...tail]);
    case 'put':
      return Uint8Array.from([...head, ...happened.bytes, ...tail]);
    case 'end':
      return Uint8Array.from(head);
  }
}

function readsOrRefuses(read: () => unknown): void {
  try {
    read();
  } catch (error) {
    expect(error).toBeInstanceOf(FormatError);
  }
}

describe('a reader', () => {
  it.each(Object.keys(READERS))('reads damaged %s, or says that it cannot', (kind) => {
    const originals = written.filter((one) => one.kind === kind);
    expect(originals.length).toBeGreaterThan(1);
    for (const { bytes } of originals) {
      fc.assert(
        fc.property(fc.array(mishap, { minLength: 1, maxLength: 6 }), (mishaps) => {
          readsOrRefuses(() => READERS[kind](mishaps.reduce(after, bytes)));
        }),
        { seed: SEED, numRuns: RUNS },
      );
    }
  });

  it.each(Object.keys(READERS))('of %s is given any bytes', (kind) => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => readsOrRefuses(() => READERS[kind](bytes))),
      { seed: SEED, numRuns: RUNS },
    );
  });

  it('of captions is given any text', () => {
    const line = fc.oneof(
      fc.string({ unit: 'binary', maxLength: 60 }),
      fc.constantFrom('WEBVTT', '', '00:00:01.000 --> 00:00:02.000', '1', '99:99:99,999 --> -1', 'NOTE', 'STYLE'),
    );
    fc.assert(
      fc.property(fc.array(line, { maxLength: 30 }), (lines) => readsOrRefuses(() => readTimedText(lines.join('\n')))),
      { seed: SEED, numRuns: RUNS },
    );
  });

  it.each(FORMS)('of JSON is given any other in the place of: %s', (form) => {
    const text = fc.oneof(
      fc.json(),
      fc.string({ unit: 'binary' }),
      fc
        .tuple(fc.constantFrom(form, 'edition', ''), fc.nat(9), fc.jsonValue())
        .map(([name, version, value]) => JSON.stringify({ form: name, version, value })),
    );
    fc.assert(
      fc.property(text, (one) => readsOrRefuses(() => readForm(form, one))),
      { seed: SEED, numRuns: RUNS },
    );
  });
});
