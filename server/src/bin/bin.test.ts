import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import type { AssetId, ClassId, LessonId } from '@kite-trail/core/lesson/ids';
import { describe, expect, it } from 'vitest';
import { addFile, assetIdOf, changesBody, json, messageOf, part, testSchool } from '../testing';
import { emptyBins } from './bin';

const { school, call } = testSchool();
const DAY_MS = 24 * 3600 * 1000;

const make = (title: string, classes: ClassId[] = []) =>
  json<LessonDocument>(call('POST', '/lessons', { title, classes }));
const binning = (lessons: LessonId[], isBinned: boolean) => call('POST', '/binning', { lessons, isBinned });
const listed = async (id: LessonId) =>
  (await json<LessonSummary[]>(call('GET', '/lessons'))).find((lesson) => lesson.id === id);
const assets = async (ids: AssetId[]) => (await school.server.db('assets').whereIn('id', ids).pluck('id')).length;

let takes = 0;
async function recorded(title: string): Promise<LessonDocument> {
  const { id } = await make(title);
  const take = `take-bin-${takes++}`;
  await call('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
  await call('PUT', `/takes/${take}/parts/0`, part(48_000 + takes));
  await call('POST', `/takes/${take}/end`, { parts: 1 });
  return json(call('POST', `/lessons/${id}/publications/1`));
}

describe('the bin', () => {
  it('takes lessons in and gives them back, to the place in their class where they were', async () => {
    const crew = (await json<{ id: ClassId }>(call('POST', '/classes', { name: 'Crew', color: 'sea' }))).id;
    const [a, b, c] = [await make('A', [crew]), await make('B', [crew]), await make('C', [crew])];
    await binning([a.id, b.id], true);
    const inClass = async () => (await json<SchoolClass[]>(call('GET', '/classes')))[0].lessons;
    expect(await inClass()).toEqual([c.id]);
    expect((await listed(a.id))!.binnedAt).not.toBeNull();
    const since = (await listed(a.id))!.binnedAt;
    await binning([a.id], true);
    expect((await listed(a.id))!.binnedAt).toBe(since);
    await binning([a.id, b.id], false);
    expect(await inClass()).toEqual([a.id, b.id, c.id]);
    expect((await listed(b.id))!.binnedAt).toBeNull();
  });

  it('still takes what a window has to send, and lets no link play', async () => {
    const lesson = await recorded('Shared');
    const watch = `/watch/${lesson.link!.token}`;
    const student = school.server.caller();
    await binning([lesson.id], true);
    const refused = await student('GET', watch);
    expect([refused.status, await messageOf(refused)]).toEqual([
      410,
      'The teacher has put this lesson away. Ask them for it.',
    ]);
    const turn = { kind: 'turn', page: lesson.pages[0].page.id } as const;
    expect((await call('POST', `/lessons/${lesson.id}/changes`, changesBody(lesson, [turn]))).status).toBe(200);
    expect((await json<LessonDocument>(call('GET', `/lessons/${lesson.id}`))).isBinned).toBe(true);
    await binning([lesson.id], false);
    expect((await student('GET', watch)).status).toBe(200);
  });

  it('lets a lesson go for good, with the files that nothing else names', async () => {
    const [lesson, other] = [await recorded('Goes'), await make('Stays')];
    const own = Buffer.from('%PDF-1.7 only here');
    const shared = Buffer.from('%PDF-1.7 in both');
    for (const pdf of [own, shared]) await addFile(call, lesson.id, pdf);
    await addFile(call, other.id, shared);
    const sound = lesson.takes[0].sound!;
    expect(await assets([assetIdOf(own), assetIdOf(shared), sound])).toBe(3);
    const early = await call('DELETE', `/lessons/${lesson.id}`);
    expect([early.status, await messageOf(early)]).toEqual([409, 'Put the lesson into the bin first.']);
    await binning([lesson.id], true);
    expect((await call('DELETE', `/lessons/${lesson.id}`)).status).toBe(204);
    expect((await call('GET', `/lessons/${lesson.id}`)).status).toBe(404);
    expect(await assets([assetIdOf(own), sound])).toBe(0);
    expect(await assets([assetIdOf(shared)])).toBe(1);
    expect((await school.server.caller()('GET', `/watch/${lesson.link!.token}`)).status).toBe(404);
    expect((await call('GET', `/lessons/${other.id}/assets/${assetIdOf(shared)}`)).status).toBe(200);
  });

  it('is emptied of what has lain there for 30 days, and of nothing else', async () => {
    const [old, put, young, busy] = [
      await make('Old'),
      await make('Put back'),
      await make('Young'),
      await make('Busy'),
    ];
    await binning([old.id, put.id, young.id, busy.id], true);
    await binning([put.id], false);
    const { db } = school.server;
    await db('lessons')
      .where({ id: young.id })
      .update({ binned_at: new Date(Date.now() + DAY_MS).toISOString() });
    // Somebody goes on working on one that lies there.
    await db('lessons')
      .where({ id: busy.id })
      .update({ changed_at: new Date(Date.now() + DAY_MS).toISOString() });
    expect(await emptyBins(db)).toBe(0);
    expect(await emptyBins(db, Date.now() + 30.5 * DAY_MS)).toBe(1);
    expect(await Promise.all([old, put, young, busy].map(async ({ id }) => (await listed(id)) !== undefined))).toEqual([
      false,
      true,
      true,
      true,
    ]);
  });
});
