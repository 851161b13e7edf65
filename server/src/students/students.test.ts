import type { LessonDocument, LessonSummary } from '@kite-trail/core/contract/lesson';
import { spacedKey, type Student } from '@kite-trail/core/contract/student';
import type { MarkingTable } from '@kite-trail/core/contract/task';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { addFile, changesBody, classWithStudents, json, messageOf, testSchool, usualTask } from '../testing';
import { forgetEndedClasses, keepDays } from './forgetting';

const { school, call } = testSchool();
const DAY_MS = 24 * 3600 * 1000;

const list = (schoolClass: string) => json<Student[]>(call('GET', `/classes/${schoolClass}/students`));

describe('students', () => {
  it('come in by a key that is written in any way, and are known by the name their teacher gave them', async () => {
    const { id, students } = await classWithStudents(school.server, call, ['Ida', 'Ole']);
    expect(students.map(({ name, seenAt }) => [name, seenAt])).toEqual([
      ['Ida', null],
      ['Ole', null],
    ]);
    const ida = school.server.caller();
    const key = spacedKey(students[0].key).toLowerCase();
    expect(await json(ida('POST', '/student-session', { key }))).toMatchObject({ name: 'Ida', schoolClass: 'Crew' });
    expect(await json(ida('GET', '/session'))).toMatchObject({ teacher: null, student: { name: 'Ida' } });
    expect((await list(id))[0].seenAt).not.toBeNull();
  });

  it('are not let in by a key of nobody’s, nor where a teacher is signed in', async () => {
    const { students } = await classWithStudents(school.server, call, ['Ida']);
    const nobody = await school.server.caller()('POST', '/student-session', { key: 'ABCDEFGH23456789' });
    expect([nobody.status, await messageOf(nobody)]).toEqual([404, expect.stringMatching(/ask your teacher/)]);
    expect((await school.server.caller()('POST', '/student-session', { key: 'short' })).status).toBe(400);
    const teacher = await call('POST', '/student-session', { key: students[0].key });
    expect([teacher.status, await messageOf(teacher)]).toEqual([409, expect.stringMatching(/Sign out first/)]);
  });

  it('who get another key come in by that one alone', async () => {
    const { id, students, as } = await classWithStudents(school.server, call, ['Ida']);
    expect((await as[0]('GET', '/own-tasks')).status).toBe(200);
    await call('POST', `/students/${students[0].id}/key`);
    expect((await as[0]('GET', '/own-tasks')).status).toBe(401);
    const [{ key }] = await list(id);
    const again = school.server.caller();
    expect((await again('POST', '/student-session', { key: students[0].key })).status).toBe(404);
    expect((await again('POST', '/student-session', { key })).status).toBe(200);
  });

  it('are told apart by their names', async () => {
    const { id, students } = await classWithStudents(school.server, call, ['Ida', 'Ole']);
    for (const names of [['Ida'], ['Per', 'Per']]) {
      const refused = await call('POST', `/classes/${id}/students`, { names });
      expect([refused.status, await messageOf(refused)]).toEqual([409, expect.stringMatching(/Add a letter/)]);
    }
    expect((await call('PUT', `/students/${students[0].id}`, { name: 'Ole' })).status).toBe(409);
    expect((await call('PUT', `/students/${students[0].id}`, { name: 'Ida B.' })).status).toBe(204);
    expect((await list(id)).map(({ name }) => name)).toEqual(['Ida B.', 'Ole']);
    const many = Array.from({ length: 199 }, (_, n) => `Hand ${n}`);
    expect((await call('POST', `/classes/${id}/students`, { names: many })).status).toBe(400);
  });
});

/** A class in which one student has a picture in what they handed in. */
async function withWork() {
  const { id, students, as } = await classWithStudents(school.server, call, ['Ida', 'Ole']);
  const lesson = await json<LessonDocument>(call('POST', '/lessons', { title: 'Leading lines' }));
  const task = await json<{ id: string }>(
    call('POST', `/lessons/${lesson.id}/tasks`, { ...usualTask, schoolClass: id }),
  );
  const { lesson: work } = await json<{ lesson: LessonDocument['id'] }>(as[0]('POST', `/own-tasks/${task.id}/reply`));
  await addFile(as[0], work, Buffer.from(`%PDF-1.7 ${work}`));
  const draft = await json<LessonDocument>(as[0]('GET', `/lessons/${work}`));
  const page = { ...draft.pages[0].page, id: 'page-more' as PageId };
  await as[0](
    'POST',
    `/lessons/${work}/changes`,
    changesBody(draft, [{ kind: 'add-page', page, after: draft.pages[0].page.id }]),
  );
  await as[0]('POST', `/works/${work}/hand-in`, { saidAt: new Date().toISOString() });
  return { id, students, as, lesson, task: task.id, work };
}

const rowsOf = async (table: string) => Number((await school.server.db(table).count({ count: '*' }).first())!.count);
const TABLES = ['lessons', 'pages', 'lesson_assets', 'assets', 'replies', 'hand_ins', 'student_sessions'];
const counts = () => Promise.all(TABLES.map(rowsOf));

describe('what students made', () => {
  it('goes for good with them, and nobody else’s with it', async () => {
    const before = await counts();
    const { task, students, as } = await withWork();
    await as[1]('POST', `/own-tasks/${task}/reply`);
    expect((await json<MarkingTable>(call('GET', `/tasks/${task}`))).rows[0].reply).not.toBeNull();
    expect((await call('DELETE', `/students/${students[0].id}`)).status).toBe(204);
    const { rows } = await json<MarkingTable>(call('GET', `/tasks/${task}`));
    expect(rows.map(({ student, reply }) => [student.name, reply !== null])).toEqual([['Ole', true]]);
    await call('DELETE', `/students/${students[1].id}`);
    // The lesson it began with, and the sheet of the task, have a page each.
    expect((await counts()).map((count, n) => count - before[n])).toEqual([2, 2, 0, 0, 0, 0, 0]);
    expect((await as[0]('GET', '/own-tasks')).status).toBe(401);
  });

  it('goes with its task, and with its class', async () => {
    const before = await counts();
    const { task, id, lesson } = await withWork();
    expect((await call('DELETE', `/tasks/${task}`)).status).toBe(204);
    expect((await counts()).map((count, n) => count - before[n])).toEqual([1, 1, 0, 0, 0, 0, 2]);
    await withWork();
    expect((await call('DELETE', `/classes/${id}`)).status).toBe(204);
    expect((await call('GET', `/lessons/${lesson.id}`)).status).toBe(200);
  });

  it('goes by itself when its class has ended, and the time that the school has set has passed', async () => {
    const { id } = await withWork();
    const { db } = school.server;
    const students = () => list(id).then(({ length }) => length);
    await call('PUT', `/classes/${id}`, { name: 'Crew', color: 'sea', cover: null, isArchived: true });
    const after = (days: number) => forgetEndedClasses(db, Date.now() + days * DAY_MS);
    expect([await after(179), await students()]).toEqual([0, 2]);
    await keepDays(db, 30);
    expect([await after(29), await students()]).toEqual([0, 2]);
    expect([await after(31), await students()]).toEqual([1, 0]);
    expect(await after(31)).toBe(0);
    expect(await call('GET', '/school/students').then((answer) => json(answer))).toEqual({ keptDays: 30 });
    expect((await call('PUT', '/school/students', { keptDays: 30 })).status).toBe(404);
  });

  it('stands in no list of its teacher’s lessons, and is in no bin of theirs', async () => {
    const { work, task, lesson } = await withWork();
    const { rows } = await json<MarkingTable>(call('GET', `/tasks/${task}`));
    const handedIn = rows[0].reply!.handIn!.lesson;
    const listed = (await json<LessonSummary[]>(call('GET', '/lessons'))).map(({ id }) => id);
    expect([listed.includes(lesson.id), listed.includes(work), listed.includes(handedIn)]).toEqual([
      true,
      false,
      false,
    ]);
    expect((await call('POST', '/binning', { lessons: [handedIn], isBinned: true })).status).toBe(404);
    const found = await json<{ lessons: { id: string }[] }>(call('GET', '/search?for=leading'));
    expect(found.lessons.map(({ id }) => id)).not.toContain(handedIn);
    // What was handed in is opened as any lesson; what is still worked on is the student's alone.
    expect((await call('GET', `/lessons/${handedIn}`)).status).toBe(200);
    expect((await call('GET', `/lessons/${work}`)).status).toBe(404);
  });
});

describe('all of a student’s work', () => {
  it('is taken out by them and by their teacher, with what they got back', async () => {
    const { task, students, as } = await withWork();
    const { rows } = await json<MarkingTable>(call('GET', `/tasks/${task}`));
    const { id } = rows[0].reply!.handIn!;
    await call('PUT', `/hand-ins/${id}/marking`, { points: [], note: 'Look again.' });
    await call('POST', `/hand-ins/${id}/giving-back`);
    const [own, teachers] = await Promise.all(
      [as[0]('GET', '/own-archive'), call('GET', `/students/${students[0].id}/archive`)].map(async (answer) => {
        const files = unzipSync(new Uint8Array(await (await answer).arrayBuffer()));
        return { names: Object.keys(files), student: JSON.parse(strFromU8(files['student.json'])) };
      }),
    );
    expect(own).toEqual(teachers);
    expect(own.student).toMatchObject({ name: 'Ida', schoolClass: 'Crew' });
    const [work] = own.student.works;
    expect(work).toMatchObject({ task: { title: usualTask.title }, handedIn: [{ note: 'Look again.' }] });
    for (const folder of [work.work, work.handedIn[0].work]) {
      expect(own.names.filter((name) => name.startsWith(`${folder}/`)).length).toBeGreaterThan(1);
    }
    expect((await as[1]('GET', `/students/${students[0].id}/archive`)).status).toBe(401);
  });
});
