import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Template } from '@kite-trail/core/contract/template';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import { createCanvas } from '@napi-rs/canvas';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addFile,
  assetIdOf,
  changesBody,
  json,
  messageOf,
  startTestServer,
  type Caller,
  type TestServer,
} from '../testing';

let server: TestServer;
let teacher: Caller;
let lesson: LessonDocument;
let asset: AssetId;

beforeAll(async () => {
  server = await startTestServer();
  teacher = await server.signedIn('teacher@example.org');
  lesson = await json(teacher('POST', '/lessons', { title: 'Charts' }));
  const picture = createCanvas(8, 8).toBuffer('image/png');
  asset = assetIdOf(picture);
  await addFile(teacher, lesson.id, picture);
});
afterAll(() => server.close());

/** The lesson's page, on a paper with a picture. */
const pictured = (picture: AssetId) => {
  const [{ page, pieces }] = lesson.pages;
  return { name: 'Chart paper', page: { ...page, paper: { ...page.paper, picture } }, pieces };
};

describe('page templates', () => {
  it('keep a page with its files, which another lesson may use then', async () => {
    const kept = await json<Template>(teacher('POST', `/lessons/${lesson.id}/templates`, pictured(asset)));
    expect((await json<Template[]>(teacher('GET', '/templates')))[0]).toEqual(kept);
    const other = await json<LessonDocument>(teacher('POST', '/lessons', { title: 'Tides' }));
    const page = { ...kept.page, id: 'a-new-page' as never };
    const add = changesBody(other, [{ kind: 'add-page', page, after: other.pages[0].page.id }]);
    const early = await teacher('POST', `/lessons/${other.id}/changes`, add);
    expect(await messageOf(early)).toMatch(/has not arrived/);
    expect((await teacher('POST', `/lessons/${other.id}/templates/${kept.id}/files`)).status).toBe(204);
    expect((await teacher('POST', `/lessons/${other.id}/changes`, add)).status).toBe(200);
    expect((await teacher('GET', `/lessons/${other.id}/assets/${asset}`)).status).toBe(200);
    expect((await teacher('GET', `/templates/${kept.id}/picture`)).headers.get('content-type')).toBe('image/png');
    expect((await teacher('DELETE', `/templates/${kept.id}`)).status).toBe(204);
    expect(await json(teacher('GET', '/templates'))).toEqual([]);
    // Pages that were started from it stay.
    expect((await teacher('GET', `/lessons/${other.id}/assets/${asset}`)).status).toBe(200);
  });

  it('are refused with a file the lesson does not have, with damaged ink, and without a name', async () => {
    const keep = (body: object) => teacher('POST', `/lessons/${lesson.id}/templates`, body);
    expect(await messageOf(await keep(pictured('0'.repeat(64) as AssetId)))).toMatch(/has not arrived/);
    expect((await keep({ ...pictured(asset), pieces: 'AAAA' })).status).toBe(400);
    expect(await messageOf(await keep({ ...pictured(asset), name: ' ' }))).toMatch(/Give the template a name/);
    expect(await json(teacher('GET', '/templates'))).toEqual([]);
  });
});
