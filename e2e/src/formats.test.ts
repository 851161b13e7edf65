import { PROTOCOL } from '@kite-trail/core/contract/protocol';
import { encodePayload } from '@kite-trail/core/formats/payload';
import { decodeMarks, decodePieces, encodeMarks, encodePieces } from '@kite-trail/core/formats/marks-coding';
import { encodeTakePart } from '@kite-trail/core/formats/take-part';
import { InkPoints } from '@kite-trail/core/ink/points';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { sceneOf } from '@kite-trail/core/lesson/scene';
import { NOTHING_HEARD } from '@kite-trail/core/sound/profile';
import { marks, piece } from '@kite-trail/core/testing/arbitraries';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Watch } from '@kite-trail/core/contract/watch';
import { DEMO_TEACHER } from '@kite-trail/demo/teachers';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readMarks, readPayload, readPieces, readTakePart } from './support/independent-reader';
import { School } from './support/school';

/** Values with columns of numbers as arrays, as a reader has them that knows nothing of ours. */
const plain = (value: unknown): unknown =>
  JSON.parse(
    JSON.stringify(value, (_, one: unknown) => {
      if (!(one instanceof InkPoints)) return ArrayBuffer.isView(one) ? Array.from(one as Uint8Array) : one;
      const { xPt, yPt, pressure, sinceMs, tilt } = one;
      return { xPt, yPt, pressure, sinceMs, ...(tilt && { tilt }) };
    }),
  );

describe('a reader written from docs/formats.md alone', () => {
  it('reads all that can be written', () => {
    fc.assert(
      fc.property(marks, fc.array(piece), fc.nat(), fc.uint8Array(), (some, pieces, lengthSamples, sound) => {
        expect(plain(readMarks(encodeMarks(some)))).toEqual(plain(some));
        expect(plain(readPieces(encodePieces(pieces)))).toEqual(plain(pieces));
        const page = wideSquaredPage('first-page' as never);
        const base = sceneOf([{ page, pieces }]);
        const payload = readPayload(encodePayload({ base, trail: { lengthSamples, marks: some } }));
        expect(plain(payload)).toEqual(plain({ lengthSamples, pages: [{ page, pieces }], marks: some }));
        const part = { toSamples: lengthSamples, marks: some, unfinished: some.slice(0, 1), sound };
        expect(plain(readTakePart(encodeTakePart({ ...part, heard: NOTHING_HEARD })))).toEqual(plain(part));
      }),
    );
  });
});

describe('a school’s lessons, read by a reader written from docs/formats.md alone', () => {
  let school: School;
  let cookie: string;
  beforeAll(async () => {
    school = await School.start();
    const { email, password } = DEMO_TEACHER;
    const answer = await request('POST', '/session', { email, password });
    cookie = answer.headers.getSetCookie()[0].split(';')[0];
  });
  afterAll(() => school?.close());

  const request = (method: string, path: string, body?: unknown) =>
    fetch(`${school.url}/api${path}`, {
      method,
      headers: {
        [PROTOCOL.header]: String(PROTOCOL.version),
        'content-type': 'application/json',
        ...(cookie ? { cookie } : {}),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  const json = async <T>(path: string): Promise<T> => (await (await request('GET', path)).json()) as T;
  const bytes = async (path: string) => new Uint8Array(await (await request('GET', path)).arrayBuffer());

  it('are pages with their pieces, takes with their marks, and what a link plays', async () => {
    let [strokes, takes] = [0, 0];
    for (const { id } of await json<{ id: string }[]>('/lessons')) {
      const lesson = await json<LessonDocument>(`/lessons/${id}`);
      for (const { pieces } of lesson.pages) {
        const stored = new Uint8Array(Buffer.from(pieces, 'base64'));
        expect(plain(readPieces(stored))).toEqual(plain(decodePieces(stored)));
      }
      for (const take of lesson.takes) {
        const stored = await bytes(`/takes/${take.id}/marks`);
        const read = readMarks(stored);
        expect(plain(read)).toEqual(plain(decodeMarks(stored)));
        strokes += read.filter(({ kind }) => kind === 'ink').length;
        takes++;
      }
      if (lesson.edit.n === 0) continue;
      const published = await request('POST', `/lessons/${id}/publications/${lesson.edit.n}`);
      const { link } = (await published.json()) as LessonDocument;
      const watched = await request('GET', `/watch/${link!.token}`);
      const { publication } = (await watched.json()) as Watch;
      const payload = readPayload(await bytes(`/watch/${link!.token}/publications/${publication}/payload`));
      expect(payload.pages.length).toBeGreaterThan(0);
      expect(payload.marks.some(({ kind }) => kind === 'ink')).toBe(true);
    }
    expect(takes).toBeGreaterThan(1);
    expect(strokes).toBeGreaterThan(100);
  });
});
