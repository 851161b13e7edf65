import { deflateSync } from 'node:zlib';
import type { EditState } from '@kite-trail/core/contract/edition';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { idempotencyKey } from '@kite-trail/core/contract/protocol';
import type { Template } from '@kite-trail/core/contract/template';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { KeptAnswerRow } from '../database/rows';
import { json, messageOf, part, startTestServer, trimBody, type Caller, type TestServer } from '../testing';
import { RequestProblem } from './problem';

let server: TestServer;
let ada: Caller;
let keys = 0;
let hinder = (_job: string): void => {};
beforeAll(async () => {
  server = await startTestServer({ hinder: (job) => hinder(job) });
  ada = await server.signedIn('ada@example.org');
});
afterAll(() => server.close());

/** The key in a request's header. */
const keyIn = (header: Record<string, string>) => idempotencyKey.read(header[idempotencyKey.HEADER])!;
const keyed = (key = `request-${keys++}`) => ({ [idempotencyKey.HEADER]: idempotencyKey.write(key) });
const newLesson = (title = 'Knots') => json<LessonDocument>(ada('POST', '/lessons', { title }));
const lessonsOf = async (call: Caller) => json<{ title: string }[]>(call('GET', '/lessons'));

/** A lesson with a take, trimmed twice. */
async function edited(): Promise<LessonDocument> {
  const { id } = await newLesson();
  const take = `take-${keys++}-of-this-test`;
  await ada('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
  await ada('PUT', `/takes/${take}/parts/0`, part(480_000));
  let lesson = await json<LessonDocument>(ada('POST', `/takes/${take}/end`, { parts: 1 }));
  for (const to of [240_000, 96_000]) {
    const state = await json<EditState>(ada('PUT', `/lessons/${id}/edition`, trimBody(lesson, 0, to)));
    lesson = { ...lesson, ...state };
  }
  return lesson;
}

describe('a request that comes again with its key', () => {
  it('makes nothing twice, and is answered as before', async () => {
    const { id, pages } = await newLesson();
    const makers: [string, object][] = [
      ['/lessons', { title: 'Once only' }],
      [`/lessons/${id}/copy`, {}],
      [`/lessons/${id}/templates`, { name: 'Squared', ...pages[0] }],
      [`/lessons/${(await edited()).id}/versions`, { name: 'For the parents' }],
    ];
    const counted = async () => {
      const tables = ['lessons', 'page_templates', 'versions', 'pages'];
      return Promise.all(tables.map(async (table) => (await server.db(table)).length));
    };
    for (const [path, body] of makers) {
      const key = keyed();
      const first = await ada('POST', path, body, key);
      expect([path, first.status]).toEqual([path, 200]);
      const after = await counted();
      const again = await ada('POST', path, body, key);
      expect(again.status).toBe(200);
      expect(await again.json()).toEqual(await first.json());
      expect(await counted()).toEqual(after);
    }
  });

  it('takes one step back, not two', async () => {
    const lesson = await edited();
    const key = keyed();
    const undo = () => json<EditState>(ada('POST', `/lessons/${lesson.id}/edition/undo`, { from: lesson.edit }, key));
    const once = await undo();
    expect(once.edit.n).toBe(lesson.edit.n - 1);
    expect(await undo()).toEqual(once);
    expect((await json<LessonDocument>(ada('GET', `/lessons/${lesson.id}`))).edit).toEqual(once.edit);
  });

  it('is repeated though what it took away is gone', async () => {
    const { id, pages } = await newLesson();
    const kept = await json<Template>(ada('POST', `/lessons/${id}/templates`, { name: 'Squared', ...pages[0] }));
    const key = keyed();
    expect((await ada('DELETE', `/templates/${kept.id}`, undefined, key)).status).toBe(204);
    expect((await ada('DELETE', `/templates/${kept.id}`, undefined, key)).status).toBe(204);
    expect((await ada('DELETE', `/templates/${kept.id}`, undefined, keyed())).status).toBe(404);
  });

  it('is told how things are then, not how they were; what is kept of it is small, however large the lesson is', async () => {
    const lesson = await newLesson();
    const key = keyed();
    const make = () => json<LessonDocument>(ada('POST', `/lessons/${lesson.id}/copy`, undefined, key));
    const { id } = await make();
    await ada('PUT', `/lessons/${id}/name`, { title: 'By another name' }, keyed());
    expect(await make()).toMatchObject({ id, title: 'By another name' });
    const kept = await server.db<KeptAnswerRow>('kept_answers').where({ key: keyIn(key) });
    expect(kept[0].answer!.length).toBeLessThan(100);
  });

  it('is answered with what was kept whole, before the school was updated', async () => {
    const key = keyed();
    const lesson = await json<LessonDocument>(ada('POST', '/lessons', { title: 'Before' }, key));
    const whole = { ...lesson, title: 'As it was kept' };
    const name = { key: keyIn(key) };
    await server
      .db('kept_answers')
      .where(name)
      .update({ answer: deflateSync(JSON.stringify(whole)) });
    expect(await json(ada('POST', '/lessons', { title: 'Before' }, key))).toEqual(whole);
  });

  it('is not refused when it is done and only its answer is too much: it comes again, and nothing is done twice', async () => {
    const lesson = await edited();
    const key = keyed();
    const undo = () => ada('POST', `/lessons/${lesson.id}/edition/undo`, { from: lesson.edit }, key);
    hinder = (job) => {
      if (job === 'describeEdit') throw new RequestProblem(413, 'too-much', 'This is more than can be done at once.');
    };
    const first = await undo();
    hinder = () => {};
    expect(first.status).toBe(503);
    expect((await json<EditState>(undo())).edit.n).toBe(lesson.edit.n - 1);
  });

  it('is done once when both come at the same time', async () => {
    const key = keyed();
    const title = 'At the same time';
    const [one, other] = await Promise.all([0, 1].map(() => ada('POST', '/lessons', { title }, key)));
    expect(await one.json()).toEqual(await other.json());
    expect((await lessonsOf(ada)).filter((lesson) => lesson.title === title)).toHaveLength(1);
  });

  it('is decided anew when it was refused, for that has changed nothing', async () => {
    const { id, edit, edition } = await edited();
    const key = keyed();
    const step = { from: { n: edit.n - 1, madeAt: 'before' } };
    expect((await ada('POST', `/lessons/${id}/edition/undo`, step, key)).status).toBe(409);
    expect((await ada('POST', `/lessons/${id}/edition/undo`, { from: edit }, key)).status).toBe(200);
    expect((await json<LessonDocument>(ada('GET', `/lessons/${id}`))).edition).not.toEqual(edition);
  });

  it('is another teacher’s own, and no stranger’s', async () => {
    const bea = await server.signedIn('bea@example.org');
    const key = keyed();
    const first = await json<LessonDocument>(ada('POST', '/lessons', { title: 'Ada’s' }, key));
    const hers = await json<LessonDocument>(bea('POST', '/lessons', { title: 'Bea’s' }, key));
    expect(hers.id).not.toBe(first.id);
    expect((await lessonsOf(bea)).map(({ title }) => title)).toEqual(['Bea’s']);
    expect((await bea('POST', `/lessons/${first.id}/copy`, {}, keyed())).status).toBe(404);
    const copyKey = keyed();
    await ada('POST', `/lessons/${first.id}/copy`, {}, copyKey);
    expect((await bea('POST', `/lessons/${first.id}/copy`, {}, copyKey)).status).toBe(404);
    expect((await server.caller()('POST', '/lessons', { title: 'Ada’s' }, key)).status).toBe(401);
  });

  it('is forgotten after a week', async () => {
    const key = keyed();
    const make = () => json<LessonDocument>(ada('POST', '/lessons', { title: 'A week ago' }, key));
    const first = await make();
    const eightDaysAgo = new Date(Date.now() - 8 * 24 * 3600 * 1000).toISOString();
    await server.db('kept_answers').update({ kept_at: eightDaysAgo });
    await ada('POST', '/lessons', { title: 'Another' }, keyed());
    expect((await make()).id).not.toBe(first.id);
  });
});

describe('a key', () => {
  it('that was used for another request is refused, and changes nothing', async () => {
    const key = keyed();
    await ada('POST', '/lessons', { title: 'First' }, key);
    const other = await ada('POST', '/lessons', { title: 'Second' }, key);
    expect(other.status).toBe(422);
    expect(await messageOf(other)).toMatch(/another request/);
    expect((await lessonsOf(ada)).map(({ title }) => title)).not.toContain('Second');
  });

  it('that cannot be read is refused', async () => {
    for (const header of ['', 'bare-letters', '"short"', `"${'x'.repeat(65)}"`, '"with space"']) {
      const answer = await ada('POST', '/lessons', { title: 'Unread' }, { [idempotencyKey.HEADER]: header });
      expect([header, answer.status]).toEqual([header, 400]);
    }
  });

  it('reads as it was written', () => {
    const key = fc.stringMatching(/^[\w-]{8,64}$/);
    fc.assert(
      fc.property(key, (one) => {
        expect(idempotencyKey.read(idempotencyKey.write(one))).toBe(one);
      }),
    );
  });
});
