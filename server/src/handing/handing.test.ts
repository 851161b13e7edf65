import type { TeacherName } from '@kite-trail/core/contract/account';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import { USUAL_LINK, type Link } from '@kite-trail/core/contract/link';
import { beforeAll, expect, it } from 'vitest';
import { addFile, assetIdOf, json, messageOf, sharedLesson, testSchool, type Caller } from '../testing';

const { school, call } = testSchool('giver@example.org', { isKeeper: true });
let other: Caller;
let to: string;
beforeAll(async () => {
  other = await school.server.signedIn('taker@example.org');
  [{ id: to }] = await json<TeacherName[]>(call('GET', '/colleagues'));
});

const titles = async (who: Caller) => (await json<LessonSummary[]>(who('GET', '/lessons'))).map(({ title }) => title);

it('makes a lesson a colleague’s with all that is in it; its links go on, and nothing of it stays behind', async () => {
  const { id, link } = await sharedLesson(call, { title: 'Anchoring' }, { take: 'take-handed', seconds: 4 });
  const pdf = Buffer.from('%PDF-1.7 scope of chain');
  await addFile(call, id, pdf);
  const { id: crew } = await json<{ id: string }>(call('POST', '/classes', { name: 'Crew', color: 'sea' }));
  await call('POST', '/placing', { lessons: [id], from: null, to: crew, before: null });
  const inClass = { ...USUAL_LINK, schoolClass: crew };
  await call('PUT', `/lessons/${id}/links/${link!.token}`, { settings: inClass });
  await call('POST', '/favourites', { lessons: [id], isFavourite: true });
  const before = await json<LessonDocument>(call('GET', `/lessons/${id}`));

  expect((await call('POST', '/handing', { lessons: [id], to })).status).toBe(204);
  expect([await titles(call), await titles(other)]).toEqual([[], ['Anchoring']]);
  expect((await call('GET', `/lessons/${id}`)).status).toBe(404);
  expect((await json<SchoolClass[]>(call('GET', '/classes')))[0].lessons).toEqual([]);
  expect(await json<LessonDocument>(other('GET', `/lessons/${id}`))).toEqual(before);
  expect((await other('GET', '/takes/take-handed/sound')).status).toBe(200);
  expect((await other('GET', `/lessons/${id}/assets/${assetIdOf(pdf)}`)).status).toBe(200);
  expect((await json<LessonSummary[]>(other('GET', '/lessons')))[0].isFavourite).toBe(false);
  const [handed] = await json<Link[]>(other('GET', `/lessons/${id}/links`));
  expect([handed.token, handed.settings.schoolClass, handed.state]).toEqual([link!.token, null, 'live']);
  expect((await school.server.caller()('GET', `/watch/${link!.token}`)).status).toBe(200);
});

it('takes many at once, all or none, and of one’s own alone', async () => {
  const make = async (title: string) => (await json<LessonDocument>(call('POST', '/lessons', { title }))).id;
  const [one, two] = [await make('Reefing'), await make('Heaving to')];
  const [{ id: theirs }] = await json<LessonSummary[]>(other('GET', '/lessons'));
  const mixed = await call('POST', '/handing', { lessons: [one, theirs, two], to });
  expect([mixed.status, await titles(call)]).toEqual([404, ['Heaving to', 'Reefing']]);
  for (const nobody of ['nobody-1', (await json<TeacherName[]>(other('GET', '/colleagues')))[0].id]) {
    const refused = await call('POST', '/handing', { lessons: [one], to: nobody });
    expect([refused.status, await messageOf(refused)]).toEqual([404, expect.stringMatching(/teacher/)]);
  }
  expect((await school.server.caller()('POST', '/handing', { lessons: [one], to })).status).toBe(401);
  await call('POST', '/handing', { lessons: [one, two], to });
  expect(await titles(call)).toEqual([]);
  expect((await titles(other)).sort()).toEqual(['Anchoring', 'Heaving to', 'Reefing']);
});

it('gives nothing to whoever is shut out, and nothing that is being recorded elsewhere', async () => {
  const { id } = await json<LessonDocument>(call('POST', '/lessons', { title: 'Lights' }));
  await call('POST', `/lessons/${id}/recording`, undefined, { 'x-window': 'window-that-records' });
  const busy = await call('POST', '/handing', { lessons: [id], to });
  expect([busy.status, await titles(call)]).toEqual([409, ['Lights']]);
  await call('DELETE', `/lessons/${id}/recording`, undefined, { 'x-window': 'window-that-records' });
  await call('PUT', `/teachers/${to}`, { isKeeper: false, isShutOut: true });
  expect(await json(call('GET', '/colleagues'))).toEqual([]);
  expect((await call('POST', '/handing', { lessons: [id], to })).status).toBe(404);
});
