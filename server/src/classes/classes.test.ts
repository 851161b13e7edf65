import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import type { ClassId, LessonId } from '@kite-trail/core/lesson/ids';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { json, messageOf, testSchool } from '../testing';

const { school, call } = testSchool();

const classes = () => json<SchoolClass[]>(call('GET', '/classes'));
const lessonsOf = async (id: ClassId) => (await classes()).find((one) => one.id === id)!.lessons;
const makeClass = async (name: string) =>
  (await json<{ id: ClassId }>(call('POST', '/classes', { name, color: 'sea' }))).id;
const makeLesson = async (title: string, taughtTo: ClassId[] = []) =>
  (await json<LessonDocument>(call('POST', '/lessons', { title, classes: taughtTo }))).id;
const place = (lessons: LessonId[], from: ClassId | null, to: ClassId | null, before: LessonId | null = null) =>
  call('POST', '/placing', { lessons, from, to, before });

let [crew, skippers] = [] as ClassId[];
let [knots, bends, charts] = [] as LessonId[];
beforeAll(async () => {
  [crew, skippers] = [await makeClass('Crew'), await makeClass('Skippers')];
  [knots, bends] = [await makeLesson('Knots', [crew]), await makeLesson('Bends', [crew])];
  charts = await makeLesson('Charts', [skippers, crew]);
});

describe('classes', () => {
  it('have the lessons that were made for them, in that order; one may be in several', async () => {
    expect(await lessonsOf(crew)).toEqual([knots, bends, charts]);
    expect(await lessonsOf(skippers)).toEqual([charts]);
    expect((await classes()).map(({ name }) => name)).toEqual(['Crew', 'Skippers']);
  });

  it('are put in order; those that are not named follow', async () => {
    expect((await call('PUT', '/classes', { classes: [skippers] })).status).toBe(204);
    expect((await classes()).map(({ name }) => name)).toEqual(['Skippers', 'Crew']);
    await call('PUT', '/classes', { classes: [crew, 'class-of-nobody', crew] });
    expect((await classes()).map(({ name }) => name)).toEqual(['Crew', 'Skippers']);
  });

  it('take lessons in before one of theirs, and let them go to another class or to none', async () => {
    await place([charts], crew, crew, knots);
    expect(await lessonsOf(crew)).toEqual([charts, knots, bends]);
    await place([knots, bends], crew, skippers, charts);
    expect([await lessonsOf(crew), await lessonsOf(skippers)]).toEqual([[charts], [knots, bends, charts]]);
    await place([bends], null, crew);
    expect([await lessonsOf(crew), await lessonsOf(skippers)]).toEqual([
      [charts, bends],
      [knots, bends, charts],
    ]);
    await place([bends], crew, null);
    expect(await lessonsOf(crew)).toEqual([charts]);
    await place([knots, bends], skippers, crew, charts);
    expect([await lessonsOf(crew), await lessonsOf(skippers)]).toEqual([[knots, bends, charts], [charts]]);
  });

  it('keep each lesson once and in order, whatever is placed where', async () => {
    const all = [crew, skippers];
    const oneOf = fc.constantFrom(...all);
    const move = fc.record({
      lessons: fc.array(fc.constantFrom(knots, bends, charts), { minLength: 1, maxLength: 4 }),
      from: fc.option(oneOf),
      to: fc.option(oneOf),
      before: fc.option(fc.constantFrom(knots, bends, charts)),
    });
    await fc.assert(
      fc.asyncProperty(move, async (asked) => {
        const before = new Map(await Promise.all(all.map(async (id) => [id, await lessonsOf(id)] as const)));
        expect((await call('POST', '/placing', asked)).status).toBe(204);
        for (const id of all) {
          const now = await lessonsOf(id);
          expect(new Set(now).size).toBe(now.length);
          const moved = new Set(asked.lessons);
          // What was not moved stands as it stood.
          expect(now.filter((one) => !moved.has(one))).toEqual(before.get(id)!.filter((one) => !moved.has(one)));
          if (id === asked.to) expect(now.filter((one) => moved.has(one))).toEqual([...moved]);
          else if (id === asked.from) expect(now.filter((one) => moved.has(one))).toEqual([]);
          else expect(now).toEqual(before.get(id));
        }
      }),
      { numRuns: 40 },
    );
    await call('POST', '/placing', { lessons: [knots, bends, charts], from: null, to: crew, before: null });
  });

  it('are renamed, coloured, given a cover of their own, and stand apart when they are over', async () => {
    const about = { name: '船員', color: 'kelp', cover: knots, isArchived: true };
    expect((await call('PUT', `/classes/${crew}`, about)).status).toBe(204);
    expect((await classes())[0]).toMatchObject(about);
    // What has left the class stands for it no more.
    await place([knots], crew, null);
    expect((await classes())[0]).toMatchObject({ ...about, cover: null });
    await place([knots], null, crew);
    expect((await classes())[0]).toMatchObject(about);
    const strange = await makeLesson('Not theirs');
    expect((await call('PUT', `/classes/${crew}`, { ...about, cover: strange })).status).toBe(404);
    const refused = await call('PUT', `/classes/${crew}`, { ...about, name: ' ' });
    expect(refused.status).toBe(400);
    expect(await messageOf(refused)).toMatch(/^Give the class a name\./);
    expect((await classes())[0]).toMatchObject(about);
  });

  it('are taken by nobody else, and neither are the lessons', async () => {
    const other = await school.server.signedIn('other@example.org');
    const theirs = (await json<{ id: ClassId }>(other('POST', '/classes', { name: 'Theirs', color: 'kite' }))).id;
    const asked = { lessons: [knots], from: null, to: theirs, before: null };
    expect((await call('POST', '/placing', asked)).status).toBe(404);
    expect((await other('POST', '/placing', asked)).status).toBe(404);
    expect((await other('POST', '/placing', { ...asked, to: crew })).status).toBe(404);
    expect((await other('POST', '/lessons', { title: 'Planted', classes: [crew] })).status).toBe(404);
    expect(await json(other('GET', '/lessons'))).toEqual([]);
    expect((await other('POST', '/favourites', { lessons: [knots], isFavourite: true })).status).toBe(404);
    expect((await other('POST', '/binning', { lessons: [knots], isBinned: true })).status).toBe(404);
    expect(await json<SchoolClass[]>(other('GET', '/classes'))).toMatchObject([{ name: 'Theirs', lessons: [] }]);
  });

  it('are deleted without their lessons', async () => {
    await call('DELETE', `/classes/${skippers}`);
    expect((await classes()).map(({ id }) => id)).toEqual([crew]);
    expect((await json<LessonSummary[]>(call('GET', '/lessons'))).map(({ id }) => id)).toContain(charts);
  });
});
