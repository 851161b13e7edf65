import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeHistory } from '@kite-trail/core/formats/history-coding';
import { changeProblem } from '@kite-trail/core/contract/change';
import { decodeContents, decodeMarks, decodePieces } from '@kite-trail/core/formats/marks-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import { filesIn } from '@kite-trail/core/lesson/files';
import type { AssetId, PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { NEW, newStroke, WHOLE, type Picture, type Stroke } from '@kite-trail/core/lesson/piece';
import { anyChange } from '@kite-trail/core/testing/beyond-limits';
import { createCanvas } from '@napi-rs/canvas';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addFile,
  assetIdOf,
  changesBody,
  json,
  messageOf,
  part,
  startTestServer,
  type Caller,
  type TestServer,
} from '../testing';

let server: TestServer;
let call: Caller;
beforeAll(async () => {
  server = await startTestServer();
  call = await server.signedIn('teacher@example.org');
});
afterAll(() => server.close());

const newLesson = () => json<LessonDocument>(call('POST', '/lessons', { title: 'Chartwork' }));
const read = (lesson: LessonDocument) => json<LessonDocument>(call('GET', `/lessons/${lesson.id}`));
const change = (lesson: LessonDocument, changes: Change[]) =>
  call('POST', `/lessons/${lesson.id}/changes`, changesBody(lesson, changes));
const piecesOf = (lesson: LessonDocument, n = 0) => decodePieces(Buffer.from(lesson.pages[n].pieces, 'base64'));

const stroke = (id: string): Stroke =>
  newStroke({
    id: id as PieceId,
    z: 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
    points: InkPoints.from([{ xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 }]),
  });
const png = createCanvas(20, 10).toBuffer('image/png');
const picture = (asset: string): Picture => ({
  ...NEW,
  kind: 'picture',
  id: 'chart' as PieceId,
  z: 2,
  asset: asset as AssetId,
  frame: { xPt: 100, yPt: 100, widthPt: 40, heightPt: 20, turnRad: 0, mirrored: false },
  crop: WHOLE,
  cutOut: new Float32Array(),
});

describe('changes to a lesson', () => {
  it('that can be made are taken, by the pages and by a recording, and all others change nothing', async () => {
    const lesson = await newLesson();
    const page = lesson.pages[0].page.id;
    const take = 'take-of-all-that-can-be-made';
    await call('POST', `/lessons/${lesson.id}/takes`, { id: take, hasSound: false });
    let { revision } = lesson;
    let n = 0;
    await fc.assert(
      fc.asyncProperty(anyChange, async (one) => {
        const made = ('page' in one && typeof one.page === 'string' ? { ...one, page } : one) as Change;
        fc.pre(changeProblem(made) === null);
        const answer = await call('POST', `/lessons/${lesson.id}/changes`, changesBody({ revision }, [made]));
        if (filesIn(made).length > 0) {
          expect([answer.status, await messageOf(answer)]).toEqual([400, expect.stringContaining('has not arrived')]);
        } else {
          expect([answer.status, answer.ok ? '' : await messageOf(answer)]).toEqual([200, '']);
          ({ revision } = await json<{ revision: number }>(answer));
        }
        const bytes = part(480 * (n + 1), { marks: [{ ...made, atSamples: 480 * n }] });
        expect((await call('PUT', `/takes/${take}/parts/${n++}`, bytes)).status).toBe(204);
      }),
      { numRuns: 120 },
    );
    const ended = await call('POST', `/takes/${take}/end`, { parts: n });
    expect(ended.status).toBe(200);
    const marks = new Uint8Array(await (await call('GET', `/takes/${take}/marks`)).arrayBuffer());
    expect(decodeMarks(marks).filter(({ kind }) => kind === 'unread')).toEqual([]);
  });

  it('keep what lies on a page that nobody here can read', async () => {
    const lesson = await newLesson();
    const page = lesson.pages[0].page.id;
    const raw = { version: 9, code: 44, bytes: Uint8Array.of(7, 7), tables: Uint8Array.of(1) };
    await change(lesson, [{ kind: 'place', page, pieces: [stroke('piece-one')], unread: [raw] }]);
    const now = await read(lesson);
    await change(now, [{ kind: 'lift', page, pieceIds: ['piece-one' as PieceId] }]);
    const contents = decodeContents(new Uint8Array(Buffer.from((await read(lesson)).pages[0].pieces, 'base64')));
    expect(contents).toEqual({ pieces: [], unread: [raw] });
    const unread: Change = { kind: 'unread', raw };
    const answer = await change(await read(lesson), [unread]);
    expect([answer.status, await messageOf(answer)]).toEqual([400, expect.stringContaining('is newer')]);
  });

  it('are made to its pages, and leave the other pages alone', async () => {
    const lesson = await newLesson();
    const first = lesson.pages[0].page.id;
    const second = wideSquaredPage('second-page' as PageId);
    const answer = await change(lesson, [
      { kind: 'add-page', page: second, after: first },
      { kind: 'ink', page: second.id, stroke: stroke('piece-one') },
      { kind: 'move-page', page: second.id, after: null },
    ]);
    expect(await answer.json()).toEqual({ revision: lesson.revision + 1, merged: false });
    const now = await read(lesson);
    expect(now.pages.map(({ page }) => page.id)).toEqual([second.id, first]);
    expect(piecesOf(now).map(({ id }) => id)).toEqual(['piece-one']);
    expect(now.pages[1]).toEqual(lesson.pages[0]);
  });

  it('can be undone after coming back', async () => {
    const lesson = await newLesson();
    const page = lesson.pages[0].page.id;
    const history = { undo: [[{ kind: 'lift' as const, page, pieceIds: ['piece-one' as PieceId] }]], redo: [] };
    const ink: Change = { kind: 'ink', page, stroke: stroke('piece-one') };
    await call('POST', `/lessons/${lesson.id}/changes`, changesBody(lesson, [ink], history));
    expect(decodeHistory(Buffer.from((await read(lesson)).history, 'base64'))).toEqual(history);
  });

  it('of one window follow one another, though it has not heard of its last ones', async () => {
    const lesson = await newLesson();
    const { page } = lesson.pages[0];
    const from = { 'x-window': 'window-one' };
    for (const [i, widthPt] of [700, 500, 700].entries()) {
      const body = changesBody(lesson, [{ kind: 'alter-page', page: { ...page, widthPt } }]);
      const answer = await call('POST', `/lessons/${lesson.id}/changes`, body, from);
      expect(await answer.json()).toEqual({ revision: lesson.revision + 1 + i, merged: false });
    }
    expect((await read(lesson)).pages[0].page.widthPt).toBe(700);
  });

  it('of two windows are merged where they are about different things', async () => {
    const lesson = await newLesson();
    const page = lesson.pages[0].page.id;
    await change(lesson, [{ kind: 'ink', page, stroke: stroke('piece-one') }]);
    const behind = await change(lesson, [{ kind: 'ink', page, stroke: stroke('piece-two') }]);
    expect(await behind.json()).toEqual({ revision: lesson.revision + 2, merged: true });
    expect(piecesOf(await read(lesson)).map(({ id }) => id)).toEqual(['piece-one', 'piece-two']);
  });

  it('of two windows never write over one another', async () => {
    const lesson = await newLesson();
    const { page } = lesson.pages[0];
    await change(lesson, [{ kind: 'alter-page', page: { ...page, widthPt: 720 } }]);
    const behind = await change(lesson, [{ kind: 'alter-page', page: { ...page, widthPt: 500 } }]);
    expect(behind.status).toBe(409);
    expect(await messageOf(behind)).toMatch(/another window/);
    expect((await read(lesson)).pages[0].page.widthPt).toBe(720);
  });

  it('are refused with a message when they are damaged, and change nothing', async () => {
    const lesson = await newLesson();
    const { page } = lesson.pages[0];
    const damaged = { ...changesBody(lesson, []), marks: Buffer.from([1, 200, 200]).toString('base64') };
    for (const answer of [
      await call('POST', `/lessons/${lesson.id}/changes`, damaged),
      await change(lesson, [{ kind: 'alter-page', page: { ...page, widthPt: 99_999 } }]),
      await change(lesson, [{ kind: 'place', page: page.id, pieces: [picture('a'.repeat(64))] }]),
    ]) {
      expect(answer.status).toBe(400);
      expect(await messageOf(answer)).not.toBe('');
    }
    expect(await read(lesson)).toEqual(lesson);
  });

  it('are told at once to the other windows that have the lesson open', async () => {
    const lesson = await newLesson();
    const news = (await call('GET', `/lessons/${lesson.id}/news`)).body!.getReader();
    const heard = async () => new TextDecoder().decode((await news.read()).value);
    expect(await heard()).toBe('data: {"holder":null}\n\n');
    const page = lesson.pages[0].page.id;
    const body = changesBody(lesson, [{ kind: 'ink', page, stroke: stroke('piece-one') }]);
    await call('POST', `/lessons/${lesson.id}/changes`, body, { 'x-window': 'window-one' });
    expect(await heard()).toBe('data: {"window":"window-one"}\n\n');
    await call('POST', `/lessons/${lesson.id}/recording`, undefined, { 'x-window': 'window-one' });
    expect(await heard()).toBe('data: {"holder":"window-one"}\n\n');
    await news.cancel();
  });
});

describe('a lesson’s files', () => {
  const upload = (lesson: LessonDocument, bytes: Uint8Array) => addFile(call, lesson.id, bytes);

  it('can be placed on its pages once they are there, and are served to nobody without a right to them', async () => {
    const lesson = await newLesson();
    await upload(lesson, png);
    const asset = assetIdOf(png);
    const page = lesson.pages[0].page.id;
    expect((await change(lesson, [{ kind: 'place', page, pieces: [picture(asset)] }])).status).toBe(200);
    const served = await call('GET', `/lessons/${lesson.id}/assets/${asset}`);
    expect(served.headers.get('content-type')).toBe('image/png');
    expect(Buffer.from(await served.arrayBuffer())).toEqual(png);
    const other = await newLesson();
    expect((await call('GET', `/lessons/${other.id}/assets/${asset}`)).status).toBe(404);
    const picturePng = await call('GET', `/lessons/${lesson.id}/picture`);
    expect(picturePng.headers.get('content-type')).toBe('image/png');
  });

  it('are refused when they are empty, of another type, or would need too much room', async () => {
    const lesson = await newLesson();
    // A PNG header (W3C PNG, section 11.2.1) that claims 60,000 × 60,000 pixels.
    const bomb = Buffer.from(png);
    bomb.writeUInt32BE(60_000, 16);
    bomb.writeUInt32BE(60_000, 20);
    for (const [bytes, message] of [
      [new Uint8Array(), /empty/],
      [Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'), /PNG, JPEG or WebP/],
      [Buffer.from('MZ not a picture'), /PNG, JPEG or WebP/],
      [bomb, /60000 × 60000/],
    ] as const) {
      const answer = await upload(lesson, bytes);
      expect(answer.status).toBe(400);
      expect(await messageOf(answer)).toMatch(message);
    }
    expect(await server.db('lesson_assets').where({ lesson_id: lesson.id })).toEqual([]);
  });

  it('go with a lesson that is started from another, whose recordings stay behind', async () => {
    const lesson = await newLesson();
    await upload(lesson, png);
    const asset = assetIdOf(png);
    const page = lesson.pages[0].page.id;
    await change(lesson, [{ kind: 'place', page, pieces: [picture(asset)] }]);
    const copy = await json<LessonDocument>(call('POST', `/lessons/${lesson.id}/copy`));
    expect(copy.title).toBe('Chartwork (copy)');
    expect(piecesOf(copy)).toEqual(piecesOf(await read(lesson)));
    expect(copy.takes).toEqual([]);
    expect((await call('GET', `/lessons/${copy.id}/assets/${asset}`)).status).toBe(200);
  });

  it('may be PDFs, whose pages’ looks are kept for those who cannot draw them', async () => {
    const lesson = await newLesson();
    const pdf = Buffer.from('%PDF-1.7\n% not drawn here');
    await upload(lesson, pdf);
    const asset = assetIdOf(pdf);
    const path = `/lessons/${lesson.id}/assets/${asset}/pages/0`;
    expect((await call('GET', path)).status).toBe(404);
    expect((await call('PUT', path, png)).status).toBe(204);
    expect(Buffer.from(await (await call('GET', path)).arrayBuffer())).toEqual(png);
    expect((await call('PUT', path, Buffer.from('no picture'))).status).toBe(400);
  });
});
