import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodePieces } from '@kite-trail/core/formats/marks-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { AssetId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import { NEW, newStroke, WHOLE, type Picture } from '@kite-trail/core/lesson/piece';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createCanvas } from '@napi-rs/canvas';
import { imageDimensionsFromData } from 'image-dimensions';
import { describe, expect, it } from 'vitest';
import { openDatabase } from '../database/open';
import { addFile, assetIdOf, changesBody, isOnPostgres, json, messageOf, part, testSchool } from '../testing';
import { ThreadedWork } from './work';

const { school, call } = testSchool('mate@example.org', { isThreaded: true });
const newLesson = (by = call) => json<LessonDocument>(by('POST', '/lessons', { title: 'A lot' }));
const pictureOf = (by: typeof call, { id }: { id: string }) => by('GET', `/lessons/${id}/picture`);

/** A stroke from one edge of the page to the other, again and again: little to send, and much to paint. */
const zigzag = (n: number) =>
  newStroke({
    id: `zigzag-${n}` as PieceId,
    z: n,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
    points: InkPoints.from(
      Array.from({ length: 100 }, (_, i) => ({
        xPt: (i % 2) * 700 + (n % 13),
        yPt: (n * 7 + i * 3) % 400,
        pressure: 0.5,
        sinceMs: i * 4,
      })),
    ),
  });

/** Asks for other things, one after the other, until something is done. @returns how often others were answered */
async function answeredMeanwhile(done: Promise<unknown>, other: () => Promise<Response>): Promise<number> {
  let isDone = false;
  void done.finally(() => (isDone = true));
  let answered = 0;
  while (!isDone) {
    expect((await other()).status).toBe(200);
    answered++;
  }
  await done;
  return answered;
}

// Threads are the same on both databases, and what they do here takes a while.
describe.skipIf(isOnPostgres)('what takes long', () => {
  it('holds up nobody else: twenty thousand zigzags are taken and painted while others are served', async () => {
    const other = await school.server.signedIn('other@example.org');
    const small = await newLesson(other);
    const lesson = await newLesson();
    const page = lesson.pages[0].page.id;
    const AT_ONCE = 5000;
    const filled = async () => {
      for (let from = 0; from < 20_000; from += AT_ONCE) {
        const changes = Array.from({ length: AT_ONCE }, (_, i): Change => ({
          kind: 'ink',
          page,
          stroke: zigzag(from + i),
        }));
        const answer = await call(
          'POST',
          `/lessons/${lesson.id}/changes`,
          changesBody({ revision: 1 + from / AT_ONCE }, changes),
        );
        expect(answer.status).toBe(200);
      }
    };
    expect(await answeredMeanwhile(filled(), () => other('GET', `/lessons/${small.id}`))).toBeGreaterThan(20);
    // Also by the threads: another teacher's picture does not wait for all of this one's.
    const done: string[] = [];
    const large = Array.from({ length: 3 }, () => pictureOf(call, lesson).finally(() => done.push('large')));
    await pictureOf(other, small).finally(() => done.push('small'));
    for (const answer of await Promise.all(large)) {
      expect(answer.status).toBe(200);
      expect(imageDimensionsFromData(new Uint8Array(await answer.arrayBuffer()))?.width).toBe(640);
    }
    expect(done.indexOf('small')).toBeLessThan(3);
  });

  it('is bounded in pixels: eight pictures of 36 megapixels are never in memory together', async () => {
    const lesson = await newLesson();
    const page = lesson.pages[0].page.id;
    const SIDE_PX = 6000;
    const blanks: AssetId[] = [];
    for (let n = 0; n < 8; n++) {
      const canvas = createCanvas(SIDE_PX, SIDE_PX);
      const context = canvas.getContext('2d');
      context.fillStyle = `hsl(${n * 45} 60% 50%)`;
      context.fillRect(0, 0, SIDE_PX, SIDE_PX);
      const jpeg = await canvas.encode('jpeg', 60);
      await addFile(call, lesson.id, jpeg);
      blanks.push(assetIdOf(jpeg));
    }
    const pieces = blanks.map((asset, n): Picture => ({
      ...NEW,
      kind: 'picture',
      id: `blank-${n}` as PieceId,
      z: n,
      asset,
      frame: { xPt: 20 + n * 80, yPt: 20, widthPt: 60, heightPt: 60, turnRad: 0, mirrored: false },
      crop: WHOLE,
      cutOut: new Float32Array(0),
    }));
    const changed = await call(
      'POST',
      `/lessons/${lesson.id}/changes`,
      changesBody(lesson, [{ kind: 'place', page, pieces }]),
    );
    expect(changed.status).toBe(200);
    const before = process.memoryUsage().rss;
    let peak = before;
    const watching = setInterval(() => (peak = Math.max(peak, process.memoryUsage().rss)), 10);
    const answers = await Promise.all(Array.from({ length: 2 }, () => pictureOf(call, lesson)));
    clearInterval(watching);
    expect(answers.map(({ status }) => status)).toEqual([200, 200]);
    // One such picture takes 144 MB, all eight 1.2 GB.
    expect((peak - before) / 1e6).toBeLessThan(600);
  });
});

describe('what a thread does', () => {
  it('is refused as anywhere else, with the same words', async () => {
    const lesson = await newLesson();
    const long = { revision: 1, marks: Buffer.alloc(300_000, 'no marks').toString('base64'), history: '' };
    const answer = await call('POST', `/lessons/${lesson.id}/changes`, long);
    expect(answer.status).toBe(400);
    const short = { revision: 1, marks: Buffer.from('no marks').toString('base64'), history: '' };
    expect(await messageOf(answer)).toBe(await messageOf(await call('POST', `/lessons/${lesson.id}/changes`, short)));
    const noJson = await call('POST', `/lessons/${lesson.id}/changes`, Buffer.alloc(300_000, '{'), {
      'content-type': 'application/json',
    });
    expect(noJson.status).toBe(400);
    expect((await json<LessonDocument>(call('GET', `/lessons/${lesson.id}`))).revision).toBe(1);
  });

  it('is done on what is there then, when others have changed it meanwhile', async () => {
    const lesson = await newLesson();
    const page = lesson.pages[0].page.id;
    const window = (name: string) => ({ 'x-window': name });
    const change = (name: string, from: number) =>
      call(
        'POST',
        `/lessons/${lesson.id}/changes`,
        changesBody(
          lesson,
          Array.from({ length: 1000 }, (_, i): Change => ({ kind: 'ink', page, stroke: zigzag(from + i) })),
        ),
        window(name),
      );
    // Each is folded into what is there when it comes, and anew where another one is kept before it.
    const WINDOWS = 5;
    const all = await Promise.all(Array.from({ length: WINDOWS }, (_, n) => change(`window-${n}`, n * 1000)));
    expect(all.map(({ status }) => status)).toEqual(all.map(() => 200));
    const { pages, revision } = await json<LessonDocument>(call('GET', `/lessons/${lesson.id}`));
    expect(revision).toBe(1 + WINDOWS);
    expect(decodePieces(Buffer.from(pages[0].pieces, 'base64'))).toHaveLength(WINDOWS * 1000);
  });

  it('ends when it takes longer than anything may, and the next one has its turn', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'kite-trail-work-')), 'school.sqlite');
    const db = await openDatabase(file);
    const work = new ThreadedWork(db, file, 1);
    const tried = () => work.do('readPart', 'teacher-one', { bytes: part(48_000) });
    const both = await Promise.allSettled([tried(), tried()]);
    for (const one of both)
      expect(one).toMatchObject({ status: 'rejected', reason: { status: 413, code: 'too-much' } });
    await Promise.all([work.close(), db.destroy()]);
  });
});
