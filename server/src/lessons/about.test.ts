import type { RecordingSummary, Space } from '@kite-trail/core/contract/overview';
import { NOTHING_SAID, type LessonDocument, type LessonSummary } from '@kite-trail/core/contract/lesson';
import type { ClassId, LessonId, PageId, TakeId } from '@kite-trail/core/lesson/ids';
import { takesIn } from '@kite-trail/core/trail/programme';
import { describe, expect, it } from 'vitest';
import { addFile, changesBody, json, messageOf, part, testSchool, trimBody } from '../testing';

const { school, call } = testSchool();
const SECOND = 48_000;

const make = (title: string, classes: ClassId[] = []) =>
  json<LessonDocument>(call('POST', '/lessons', { title, classes }));
const open = (id: LessonId) => json<LessonDocument>(call('GET', `/lessons/${id}`));
const summary = async (id: LessonId) =>
  (await json<LessonSummary[]>(call('GET', '/lessons'))).find((lesson) => lesson.id === id)!;
const about = (id: LessonId, said: object) => call('PUT', `/lessons/${id}/about`, { ...NOTHING_SAID, ...said });

async function record(id: LessonId, take: string, seconds = 10): Promise<LessonDocument> {
  await call('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
  await call('PUT', `/takes/${take}/parts/0`, part(seconds * SECOND));
  return json(call('POST', `/takes/${take}/end`, { parts: 1 }));
}

describe('what is said about a lesson', () => {
  it('is kept, in any script, and within bounds', async () => {
    const { id } = await make('Tides');
    const said = {
      description: 'Ebb and flood,\nby the rule of twelfths.',
      subject: 'ניווט',
      level: 'Beginners',
      language: 'pt-BR',
      tags: ['tide', '潮汐'],
      licence: 'CC BY-SA',
    };
    expect((await about(id, said)).status).toBe(204);
    expect((await summary(id)).about).toEqual({ ...NOTHING_SAID, ...said });
    expect((await open(id)).about).toEqual({ ...NOTHING_SAID, ...said });
    for (const wrong of [
      { language: 'not a language' },
      { licence: 'mine' },
      { tags: [''] },
      { tags: Array(21).fill('tag') },
      { subject: 'x'.repeat(61) },
    ]) {
      expect((await about(id, { ...said, ...wrong })).status).toBe(400);
    }
    expect((await summary(id)).about).toEqual({ ...NOTHING_SAID, ...said });
  });

  it('names the page that stands for the lesson; one that has gone does no harm', async () => {
    const lesson = await make('Lights');
    const picture = async () => Buffer.from(await (await call('GET', `/lessons/${lesson.id}/picture`)).arrayBuffer());
    const first = await picture();
    const second = { ...lesson.pages[0].page, id: 'page-second' as PageId, widthPt: 200, heightPt: 900 };
    const add = { kind: 'add-page', page: second, after: lesson.pages[0].page.id } as const;
    await call('POST', `/lessons/${lesson.id}/changes`, changesBody(lesson, [add]));
    expect((await picture()).equals(first)).toBe(true);
    await about(lesson.id, { coverPage: second.id });
    expect((await picture()).equals(first)).toBe(false);
    await about(lesson.id, { coverPage: 'page-that-never-was' });
    expect((await picture()).equals(first)).toBe(true);
  });

  it('makes favourites, one by one and many at once', async () => {
    const lessons = [(await make('One')).id, (await make('Two')).id];
    const are = async () => Promise.all(lessons.map(async (id) => (await summary(id)).isFavourite));
    await call('POST', '/favourites', { lessons, isFavourite: true });
    await call('POST', '/favourites', { lessons: lessons.slice(1), isFavourite: true });
    expect(await are()).toEqual([true, true]);
    await call('POST', '/favourites', { lessons: lessons.slice(1), isFavourite: false });
    expect(await are()).toEqual([true, false]);
    const refused = await call('POST', '/favourites', { lessons: [], isFavourite: true });
    expect(refused.status).toBe(400);
    expect(await messageOf(refused)).toMatch(/^Choose a lesson first\./);
  });
});

describe('a duplicate', () => {
  it('has all that the lesson has, and goes a way of its own', async () => {
    const crew = (await json<{ id: ClassId }>(call('POST', '/classes', { name: 'Crew', color: 'sea' }))).id;
    const { id } = await make('Splices', [crew]);
    await addFile(call, id, Buffer.from('%PDF-1.7'));
    await about(id, { tags: ['rope'] });
    await record(id, 'take-dup-1');
    const twice = await record(id, 'take-dup-2', 5);
    await call('PUT', `/lessons/${id}/edition`, trimBody(twice, SECOND, 12 * SECOND));
    await call('POST', `/lessons/${id}/versions`, { name: 'First' });
    const lesson = await json<LessonDocument>(call('POST', `/lessons/${id}/publications/3`));

    const copy = await json<LessonDocument>(call('POST', `/lessons/${id}/duplicate`));
    expect(copy.title).toBe('Splices (copy)');
    expect(copy.about.tags).toEqual(['rope']);
    expect(copy.pages).toEqual(lesson.pages);
    expect(copy.link).toBeNull();
    expect(copy.versions.map(({ name }) => name)).toEqual(['First']);
    expect((await json<{ lessons: LessonId[] }[]>(call('GET', '/classes')))[0].lessons).toEqual([id, copy.id]);
    // Its recordings have other names, the same sound, and play in the same way.
    const names = new Map(lesson.takes.map((take, i) => [take.id, copy.takes[i].id]));
    for (const [was, is] of names) expect(was).not.toBe(is);
    expect(copy.takes.map(({ sound, lengthSamples }) => ({ sound, lengthSamples }))).toEqual(
      lesson.takes.map(({ sound, lengthSamples }) => ({ sound, lengthSamples })),
    );
    expect(copy.edition.programme).toEqual(
      lesson.edition.programme.map((segment) => ({ ...segment, take: names.get(segment.take) })),
    );
    const used = await json<LessonDocument>(call('POST', `/lessons/${copy.id}/versions/${copy.versions[0].id}/use`));
    expect([...takesIn(used.edition.programme)].every((take) => copy.takes.some((one) => one.id === take))).toBe(true);

    // What becomes of one is nothing to the other.
    await call('POST', '/binning', { lessons: [id], isBinned: true });
    await call('DELETE', `/lessons/${id}`);
    expect((await call('GET', `/takes/${copy.takes[0].id}/sound`)).status).toBe(200);
    const again = await json<LessonDocument>(call('POST', `/lessons/${copy.id}/duplicate`));
    expect(again.takes).toHaveLength(2);
  });

  it('of a lesson that was never recorded is one that was never recorded', async () => {
    const copy = await json<LessonDocument>(call('POST', `/lessons/${(await make('ש'.repeat(120))).id}/duplicate`));
    expect([copy.takes, copy.edition.programme, copy.edit.n]).toEqual([[], [], 0]);
    expect(copy.title).toBe(`${'ש'.repeat(113)} (copy)`);
  });
});

describe('across all lessons', () => {
  it('are recordings told with what became of them', async () => {
    const other = await school.server.signedIn('lone@example.org');
    const mine = await json<LessonDocument>(other('POST', '/lessons', { title: 'Alone' }));
    const list = () => json<RecordingSummary[]>(other('GET', '/recordings'));
    expect(await list()).toEqual([]);
    for (const take of ['take-all-1', 'take-all-2']) {
      await other('POST', `/lessons/${mine.id}/takes`, { id: take, hasSound: true });
      await other('PUT', `/takes/${take}/parts/0`, part(SECOND));
      await other('POST', `/takes/${take}/end`, { parts: 1 });
    }
    await other('PUT', '/takes/take-all-1/name', { name: 'The first' });
    await other('PUT', '/takes/take-all-2/bin');
    const published = await json<LessonDocument>(
      other(
        'POST',
        `/lessons/${mine.id}/publications/${(await json<LessonDocument>(other('GET', `/lessons/${mine.id}`))).edit.n}`,
      ),
    );
    expect(await list()).toMatchObject([
      { id: 'take-all-2' as TakeId, isPlayed: false, isBinned: true },
      { id: 'take-all-1', name: 'The first', title: 'Alone', isPlayed: true, links: [published.link!.token] },
    ]);
    await other('POST', '/binning', { lessons: [mine.id], isBinned: true });
    expect(await list()).toEqual([]);
  });

  it('is room told: what two lessons share goes with the last of them', async () => {
    const other = await school.server.signedIn('roomy@example.org');
    const space = () => json<Space>(other('GET', '/space'));
    const ids: LessonId[] = [];
    for (const title of ['Small', 'Large']) {
      ids.push((await json<LessonDocument>(other('POST', '/lessons', { title }))).id);
    }
    const empty = await space();
    expect(empty.freeBytes).toBeNull();
    const [own, shared] = [Buffer.alloc(300_000, 'a'), Buffer.alloc(500_000, 'b')];
    for (const pdf of [own, shared]) pdf.write('%PDF-1.7');
    await addFile(other, ids[1], own);
    for (const id of ids) await addFile(other, id, shared);
    const full = await space();
    expect(full.ownBytes - empty.ownBytes).toBe(800_000);
    expect(full.schoolBytes - empty.schoolBytes).toBe(800_000);
    expect(full.schoolBytes).toBeGreaterThanOrEqual(full.ownBytes);
    const large = full.lessons.find(({ id }) => id === ids[1])!;
    const before = empty.lessons.find(({ id }) => id === ids[1])!;
    expect(large.bytes - before.bytes).toBe(300_000);
    expect(full.lessons[0].id).toBe(ids[1]);
    await other('POST', '/binning', { lessons: [ids[1]], isBinned: true });
    const binned = await space();
    expect(binned.binnedBytes).toBe(large.bytes);
    await other('DELETE', `/lessons/${ids[1]}`);
    expect((await space()).ownBytes).toBe(full.ownBytes - large.bytes);
  });
});
