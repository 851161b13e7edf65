import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Watch } from '@kite-trail/core/contract/watch';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { AssetId, PageId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { NEW, WHOLE } from '@kite-trail/core/lesson/piece';
import { beforeEach, describe, expect, it } from 'vitest';
import { addFile, assetIdOf, json, part, testSchool } from '../testing';

const SECOND = 48_000;

const { school, call } = testSchool();
let lesson: LessonDocument;
let takes = 0;
beforeEach(async () => {
  lesson = await json(call('POST', '/lessons', { title: 'Pilotage' }));
});

describe('what is written in a take', () => {
  const FRAME = { xPt: 100, yPt: 100, widthPt: 80, heightPt: 60, turnRad: 0, mirrored: false };
  const page = () => lesson.pages[0].page.id;
  const picture = (asset: AssetId): Mark => ({
    kind: 'place',
    page: page(),
    pieces: [
      {
        ...NEW,
        kind: 'picture',
        id: 'piece-of-this' as PieceId,
        z: 1,
        asset,
        frame: FRAME,
        crop: WHOLE,
        cutOut: new Float32Array(),
      },
    ],
    atSamples: 0,
  });
  const withMark = async (mark: Mark) => {
    const id = `take-written-${takes++}` as TakeId;
    await call('POST', `/lessons/${lesson.id}/takes`, { id, hasSound: false });
    const put = await call('PUT', `/takes/${id}/parts/0`, part(SECOND, { marks: [mark] }));
    return { put, ended: async () => json<LessonDocument>(call('POST', `/takes/${id}/end`, { parts: 1 })) };
  };

  it('costs itself alone where it cannot be', async () => {
    const moved: Mark = { kind: 'move-page', page: page(), after: 'x'.repeat(500) as PageId, atSamples: 0 };
    const { put, ended } = await withMark(moved);
    expect(put.status).toBe(204);
    const { takes: made } = await ended();
    const bytes = await (await call('GET', `/takes/${made.at(-1)!.id}/marks`)).arrayBuffer();
    expect(decodeMarks(new Uint8Array(bytes)).map(({ kind }) => kind)).toEqual(['unread']);
  });

  it('can name a file that is not there: all else is shared, and the file is added when it comes', async () => {
    const bytes = Buffer.from('%PDF-1.7 never sent');
    const asset = assetIdOf(bytes);
    const { ended } = await withMark(picture(asset));
    const { edit } = await ended();
    const shared = await json<LessonDocument>(call('POST', `/lessons/${lesson.id}/publications/${edit.n}`));
    const about = await json<Watch>(call('GET', `/watch/${shared.link!.token}`));
    const file = `/watch/${shared.link!.token}/publications/${about.publication}/assets/${asset}`;
    expect((await call('GET', file)).status).toBe(404);
    await addFile(call, lesson.id, bytes);
    await call('POST', `/lessons/${lesson.id}/publications/${edit.n}`);
    const now = await json<Watch>(call('GET', `/watch/${shared.link!.token}`));
    expect((await call('GET', file.replace(about.publication, now.publication))).status).toBe(200);
  });

  it('gives nobody another teacher’s file', async () => {
    const other = await school.server.signedIn('purser@example.org');
    const theirs = await json<LessonDocument>(other('POST', '/lessons', { title: 'Private' }));
    const bytes = Buffer.from('%PDF-1.7 private');
    await addFile(other, theirs.id, bytes);
    const asset = assetIdOf(bytes);
    const { ended } = await withMark(picture(asset));
    const { edit } = await ended();
    const { link } = await json<LessonDocument>(call('POST', `/lessons/${lesson.id}/publications/${edit.n}`));
    const { publication } = await json<Watch>(call('GET', `/watch/${link!.token}`));
    for (const path of [`/lessons/${lesson.id}`, `/watch/${link!.token}/publications/${publication}`]) {
      expect((await call('GET', `${path}/assets/${asset}`)).status).toBe(404);
    }
  });
});
