import type { EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { idempotencyKey } from '@kite-trail/core/contract/protocol';
import { decodePieces } from '@kite-trail/core/formats/marks-coding';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { PieceId } from '@kite-trail/core/lesson/ids';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { programmeLength, takesIn } from '@kite-trail/core/trail/programme';
import { beforeEach, describe, expect, it } from 'vitest';
import { addFile, assetIdOf, changesBody, json, part, testSchool, trimBody } from './testing';

const SECOND = 48_000;
const AT_ONCE = Array.from({ length: 10 }, (_, n) => n);

const { school, call } = testSchool();
let lesson: LessonDocument;
let path: string;
beforeEach(async () => {
  lesson = await json(call('POST', '/lessons', { title: 'All hands' }));
  path = `/lessons/${lesson.id}`;
});

const now = () => json<LessonDocument>(call('GET', path));
const statuses = (answers: readonly Response[]) => answers.map(({ status }) => status).sort();
const allAtOnce = (ask: (n: number) => Promise<Response>) => Promise.all(AT_ONCE.map(ask));

/** A take with one part, which has not ended. */
async function begun(n: number, seconds = 1): Promise<string> {
  const take = `take-at-once-${n}-${lesson.id}`.slice(0, 40);
  await call('POST', `${path}/takes`, { id: take, hasSound: true });
  await call('PUT', `/takes/${take}/parts/0`, part(seconds * SECOND));
  return take;
}

describe('requests at the same time', () => {
  it('end many takes, and each of them plays', async () => {
    const takes = await Promise.all(AT_ONCE.map((n) => begun(n)));
    const answers = await allAtOnce((n) => call('POST', `/takes/${takes[n]}/end`, { parts: 1 }));
    expect(statuses(answers)).toEqual(AT_ONCE.map(() => 200));
    const { edition, edit } = await now();
    expect([...takesIn(edition.programme)].sort()).toEqual([...takes].sort());
    expect(programmeLength(edition.programme)).toBe(AT_ONCE.length * SECOND);
    expect(edit.n).toBe(AT_ONCE.length);
  });

  it('end one take many times, and it plays once', async () => {
    const take = await begun(0);
    const answers = await allAtOnce(() => call('POST', `/takes/${take}/end`, { parts: 1 }));
    expect(statuses(answers)).toEqual(AT_ONCE.map(() => 200));
    expect(programmeLength((await now()).edition.programme)).toBe(SECOND);
  });

  it('edit from the same edit, and one of them counts', async () => {
    const ended = await json<LessonDocument>(call('POST', `/takes/${await begun(0, 20)}/end`, { parts: 1 }));
    const answers = await allAtOnce((n) => call('PUT', `${path}/edition`, trimBody(ended, 0, (n + 1) * SECOND)));
    expect(statuses(answers)).toEqual([200, ...AT_ONCE.slice(1).map(() => 409)]);
    const kept = await json<EditState>(answers.find(({ ok }) => ok)!);
    const { edition, edit } = await now();
    expect([edition, edit]).toEqual([kept.edition, kept.edit]);
    expect(edit.n).toBe(ended.edit.n + 1);
  });

  it('change different pieces from many windows, and all are there', async () => {
    const page = lesson.pages[0].page.id;
    const stroke = (n: number) =>
      newStroke({
        id: `piece-of-window-${n}` as PieceId,
        z: n,
        pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
        points: InkPoints.from([{ xPt: n, yPt: n, pressure: 0.5, sinceMs: 0 }]),
      });
    const answers = await allAtOnce((n) =>
      call('POST', `${path}/changes`, changesBody(lesson, [{ kind: 'ink', page, stroke: stroke(n) }]), {
        'x-window': `window-${n}`,
      }),
    );
    expect(statuses(answers)).toEqual(AT_ONCE.map(() => 200));
    const { pages, revision } = await now();
    const pieces = decodePieces(Buffer.from(pages[0].pieces, 'base64'));
    expect(pieces.map(({ id }) => id).sort()).toEqual(AT_ONCE.map((n) => `piece-of-window-${n}`));
    expect(revision).toBe(lesson.revision + AT_ONCE.length);
  });

  it('send different bytes as the same part, and one of them is kept', async () => {
    const take = `take-torn-${lesson.id}`.slice(0, 40);
    await call('POST', `${path}/takes`, { id: take, hasSound: true });
    const answers = await allAtOnce((n) => call('PUT', `/takes/${take}/parts/0`, part((n + 1) * SECOND)));
    expect(statuses(answers)).toEqual([204, ...AT_ONCE.slice(1).map(() => 409)]);
    const kept = answers.findIndex(({ ok }) => ok);
    const ended = await json<LessonDocument>(call('POST', `/takes/${take}/end`, { parts: 1 }));
    expect(programmeLength(ended.edition.programme)).toBe((kept + 1) * SECOND);
  });

  it('with one key make one thing', async () => {
    const title = `Once ${lesson.id}`;
    const key = { [idempotencyKey.HEADER]: idempotencyKey.write(`key-of-${lesson.id}`) };
    const answers = await allAtOnce(() => call('POST', '/lessons', { title }, key));
    const ids = await Promise.all(answers.map(async (answer) => (await json<LessonDocument>(answer)).id));
    expect(new Set(ids).size).toBe(1);
    const all = await json<{ title: string }[]>(call('GET', '/lessons'));
    expect(all.filter((one) => one.title === title)).toHaveLength(1);
  });

  it('share a lesson, and it has one link', async () => {
    await call('POST', `/takes/${await begun(0)}/end`, { parts: 1 });
    const answers = await allAtOnce(() => call('POST', `${path}/publications/1`));
    expect(statuses(answers)).toEqual(AT_ONCE.map(() => 200));
    expect(await school.server.db('links').where({ lesson_id: lesson.id })).toHaveLength(1);
  });

  it('of two teachers give their lessons the same file, and it is kept once', async () => {
    const other = await school.server.signedIn('purser@example.org');
    const theirs = await json<LessonDocument>(other('POST', '/lessons', { title: 'Theirs' }));
    const bytes = Buffer.from(`%PDF-1.7 ${lesson.id}`);
    const answers = await Promise.all([addFile(call, lesson.id, bytes), addFile(other, theirs.id, bytes)]);
    expect(statuses(answers)).toEqual([204, 204]);
    const asset = assetIdOf(bytes);
    // What the other one has sent is there no more.
    const sent = await school.server.db('assets').where('id', 'like', 'upload-%');
    expect(await school.server.db('assets').where({ id: asset })).toMatchObject([{ chunks_of: sent[0].id }]);
    expect(sent).toHaveLength(1);
    expect(await school.server.db('asset_chunks').where({ asset_id: sent[0].id })).toHaveLength(1);
    for (const [as, of] of [
      [call, lesson],
      [other, theirs],
    ] as const) {
      const served = await as('GET', `/lessons/${of.id}/assets/${asset}`);
      expect(Buffer.from(await served.arrayBuffer())).toEqual(bytes);
    }
  });
});
