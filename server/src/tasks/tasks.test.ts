import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { MarkingTable, OwnTask, TaskSummary } from '@kite-trail/core/contract/task';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { LessonId, PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { decodeContents } from '@kite-trail/core/formats/marks-coding';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { beforeEach, describe, expect, it } from 'vitest';
import type { HandInRow } from '../database/rows';
import {
  changesBody,
  classWithStudents,
  json,
  messageOf,
  part,
  testSchool,
  uploaded,
  usualAbout,
  usualTask,
  type Caller,
} from '../testing';

const { school, call } = testSchool();
const HOUR_MS = 3600 * 1000;
const inHours = (hours: number) => new Date(Date.now() + hours * HOUR_MS).toISOString();

let crew: string;
let ida: Caller;
let ole: Caller;
let lesson: LessonDocument;

beforeEach(async () => {
  const made = await classWithStudents(school.server, call, ['Ida', 'Ole']);
  crew = made.id;
  [ida, ole] = made.as;
  lesson = await json<LessonDocument>(call('POST', '/lessons', { title: 'Leading lines' }));
  await write(call, lesson.id, 'mark-of-the-teacher');
});

async function write(who: Caller, id: LessonId, piece: string) {
  const now = await json<LessonDocument>(who('GET', `/lessons/${id}`));
  const stroke = newStroke({
    id: piece as PieceId,
    z: 1,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
    points: InkPoints.from([{ xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 }]),
  });
  const changes = changesBody(now, [{ kind: 'ink', page: now.pages[0].page.id, stroke }]);
  return who('POST', `/lessons/${id}/changes`, changes);
}

async function giveOut(more: Partial<typeof usualTask> | object = {}): Promise<string> {
  const body = { ...usualTask, schoolClass: crew, ...more };
  return (await json<{ id: string }>(call('POST', `/lessons/${lesson.id}/tasks`, body))).id;
}
const begin = (who: Caller, task: string) =>
  json<{ reply: string; lesson: LessonId }>(who('POST', `/own-tasks/${task}/reply`));
const handIn = (who: Caller, work: string, saidAt = new Date().toISOString()) =>
  who('POST', `/works/${work}/hand-in`, { saidAt });
const table = (task: string) => json<MarkingTable>(call('GET', `/tasks/${task}`));
const lies = async (task: string, n = 0) => (await table(task)).rows[n].reply?.handIn ?? null;
const own = async (who: Caller) => (await json<OwnTask[]>(who('GET', '/own-tasks')))[0];
const piecesOf = async (who: Caller, id: string) => {
  const { pages } = await json<LessonDocument>(who('GET', `/lessons/${id}`));
  return pages.flatMap(({ pieces }) =>
    decodeContents(Buffer.from(pieces, 'base64')).pieces.map(({ id: piece }) => piece),
  );
};

async function record(who: Caller, id: LessonId, take: string, seconds: number) {
  await who('POST', `/lessons/${id}/takes`, { id: take, hasSound: true });
  await who('PUT', `/takes/${take}/parts/0`, part(secondsToSamples(seconds)));
  return who('POST', `/takes/${take}/end`, { parts: 1 });
}

describe('a task', () => {
  it('is done on the lesson’s pages as they stood, by each student on a copy of their own', async () => {
    const task = await giveOut();
    await write(call, lesson.id, 'written-later');
    const [one, other] = [await begin(ida, task), await begin(ole, task)];
    expect(one.lesson).not.toBe(other.lesson);
    expect(await begin(ida, task)).toEqual(one);
    expect((await write(ida, one.lesson, 'mark-of-ida')).status).toBe(200);
    expect(await piecesOf(ida, one.lesson)).toEqual(['mark-of-the-teacher', 'mark-of-ida']);
    expect(await piecesOf(ole, other.lesson)).toEqual(['mark-of-the-teacher']);
  });

  it('may be one page alone, and is none of a page that is not there', async () => {
    const document = await json<LessonDocument>(call('GET', `/lessons/${lesson.id}`));
    const page = { ...document.pages[0].page, id: 'page-two' as PageId };
    await call(
      'POST',
      `/lessons/${lesson.id}/changes`,
      changesBody(document, [{ kind: 'add-page', page, after: document.pages[0].page.id }]),
    );
    const task = await giveOut({ page: 'page-two' });
    expect((await table(task)).pages).toEqual(['page-two']);
    const missing = await call('POST', `/lessons/${lesson.id}/tasks`, {
      ...usualTask,
      schoolClass: crew,
      page: 'page-none',
    });
    expect(missing.status).toBe(404);
    const elsewhere = await call('POST', `/lessons/${lesson.id}/tasks`, { ...usualTask, schoolClass: 'class-none' });
    expect(elsewhere.status).toBe(404);
  });

  it('is listed to the class’s teacher with how it stands, and to its students with what they made of it', async () => {
    const task = await giveOut({ criteria: [{ name: 'Marks', points: 4 }] });
    expect(await own(ida)).toMatchObject({ task: { id: task, isClosed: false }, title: usualTask.title, reply: null });
    const { lesson: work } = await begin(ida, task);
    await handIn(ida, work);
    const { tasks } = await json<{ tasks: TaskSummary[] }>(call('GET', `/classes/${crew}/tasks`));
    expect(tasks).toMatchObject([{ id: task, students: 2, handedIn: 1, fresh: 1, givenBack: 0 }]);
    expect((await own(ida)).reply).toMatchObject({ isChanged: false, isLate: false, feedback: null });
  });
});

describe('what is handed in', () => {
  it('is what it was then, whatever its student writes later, until they hand it in again', async () => {
    const task = await giveOut();
    const { lesson: work } = await begin(ida, task);
    await write(ida, work, 'first');
    await record(ida, work, `take-of-ida-${work.slice(0, 8)}`, 4);
    expect((await handIn(ida, work)).status).toBe(204);
    const before = (await lies(task))!;
    expect(before).toMatchObject({ isLate: false, isOpened: false, lengthSamples: secondsToSamples(4), saidAt: null });
    await write(ida, work, 'second');
    expect((await own(ida)).reply!.isChanged).toBe(true);
    expect(await piecesOf(call, before.lesson)).toEqual(['mark-of-the-teacher', 'first']);
    await handIn(ida, work);
    const after = (await lies(task))!;
    expect(after.id).not.toBe(before.id);
    // Before a recording all lies on the pages; what is written after it waits for the next one.
    expect((await json<LessonDocument>(call('GET', `/lessons/${after.lesson}`))).between).not.toBe('');
    expect((await own(ida)).reply!.isChanged).toBe(false);
  });

  it('keeps to itself what its student threw away', async () => {
    const task = await giveOut();
    const { lesson: work } = await begin(ida, task);
    const [good, bad] = ['good', 'bad'].map((name) => `take-${name}-${work.slice(0, 8)}`);
    await record(ida, work, good, 4);
    await record(ida, work, bad, 3);
    await ida('PUT', `/takes/${bad}/bin`);
    await handIn(ida, work);
    const { takes } = await json<LessonDocument>(call('GET', `/lessons/${(await lies(task))!.lesson}`));
    expect(takes.map(({ lengthSamples }) => lengthSamples)).toEqual([secondsToSamples(4)]);
    expect(takes[0].id).not.toBe(good);
  });

  it('comes once, however often it is sent', async () => {
    const task = await giveOut();
    const { lesson: work } = await begin(ida, task);
    const saidAt = new Date().toISOString();
    const headers = { 'idempotency-key': '"hand-in-of-ida-000001"' };
    for (let n = 0; n < 3; n++) {
      expect((await ida('POST', `/works/${work}/hand-in`, { saidAt }, headers)).status).toBe(204);
    }
    const rows = await school.server
      .db<HandInRow>('hand_ins')
      .join('replies', 'replies.id', 'reply_id')
      .where({ task_id: task });
    expect(rows).toHaveLength(1);
    // Another student's request under the same key is another one.
    const { lesson: others } = await begin(ole, task);
    expect((await ole('POST', `/works/${others}/hand-in`, { saidAt }, headers)).status).toBe(204);
    expect(await lies(task, 1)).not.toBeNull();
  });

  it('can be taken back until it has been given back', async () => {
    const task = await giveOut();
    const { lesson: work } = await begin(ida, task);
    expect((await ida('DELETE', `/works/${work}/hand-in`)).status).toBe(409);
    await handIn(ida, work);
    await handIn(ida, work);
    expect((await ida('DELETE', `/works/${work}/hand-in`)).status).toBe(204);
    expect((await table(task)).rows[0].reply).toMatchObject({ handIn: null, wasTakenBack: true });
    await handIn(ida, work);
    await call('POST', `/hand-ins/${(await lies(task))!.id}/giving-back`);
    const refused = await ida('DELETE', `/works/${work}/hand-in`);
    expect([refused.status, await messageOf(refused)]).toEqual([409, expect.stringMatching(/hand it in again/)]);
  });

  it('is late after it was due; what a device kept without a network says when it was handed in', async () => {
    const task = await giveOut({ dueAt: inHours(-1) });
    const [{ lesson: idas }, { lesson: oles }] = [await begin(ida, task), await begin(ole, task)];
    await handIn(ida, idas);
    await handIn(ole, oles, inHours(-2));
    expect(await lies(task)).toMatchObject({ isLate: true, saidAt: null });
    expect(await lies(task, 1)).toMatchObject({ isLate: true, saidAt: expect.any(String) });
  });

  it('is taken after a task was closed only where it was handed in before', async () => {
    const closed = await giveOut({ dueAt: inHours(-1), takesLate: false });
    const { lesson: work } = await begin(ida, closed);
    expect((await own(ida)).task!.isClosed).toBe(true);
    const refused = await handIn(ida, work);
    expect([refused.status, await messageOf(refused)]).toEqual([409, expect.stringMatching(/Your work is kept/)]);
    expect(await lies(closed)).toBeNull();
    expect((await handIn(ida, work, inHours(-2))).status).toBe(204);
    expect(await lies(closed)).not.toBeNull();
    // A device that says it was years ago is not believed.
    const { lesson: others } = await begin(ole, closed);
    await call('PUT', `/tasks/${closed}`, {
      ...usualAbout,
      dueAt: inHours(-24 * 60),
      takesLate: false,
      isClosed: false,
    });
    expect((await handIn(ole, others, inHours(-24 * 365))).status).toBe(409);
    await call('PUT', `/tasks/${closed}`, { ...usualAbout, isClosed: false });
    expect((await handIn(ole, others)).status).toBe(204);
  });

  it('closes when its teacher says so, and opens again', async () => {
    const task = await giveOut();
    const { lesson: work } = await begin(ida, task);
    await call('PUT', `/tasks/${task}`, { ...usualAbout, isClosed: true });
    expect((await handIn(ida, work)).status).toBe(409);
    // What was written goes on being kept.
    expect((await write(ida, work, 'still-kept')).status).toBe(200);
    await call('PUT', `/tasks/${task}`, { ...usualAbout, isClosed: false });
    expect((await handIn(ida, work)).status).toBe(204);
  });
});

describe('feedback', () => {
  const criteria = [
    { name: 'Marks', points: 4 },
    { name: 'Bearing', points: 6 },
  ];

  it('is written and spoken on what was handed in, reaches its student when it is given back, and is seen by them', async () => {
    const task = await giveOut({ criteria });
    const { lesson: work } = await begin(ida, task);
    await record(ida, work, `take-by-ida-${work.slice(0, 8)}`, 4);
    await handIn(ida, work);
    const { id, lesson: copy } = (await lies(task))!;
    await call('POST', `/hand-ins/${id}/opening`);
    expect((await lies(task))!.isOpened).toBe(true);
    await record(call, copy, `take-on-it-${work.slice(0, 8)}`, 5);
    await call('PUT', `/hand-ins/${id}/marking`, { points: [3, null], note: ' Look again at the bearing. ' });
    expect((await own(ida)).reply!.feedback).toBeNull();
    const { edit } = await json<LessonDocument>(call('GET', `/lessons/${copy}`));
    await call('POST', `/lessons/${copy}/publications/${edit.n}`);
    expect((await call('POST', `/hand-ins/${id}/giving-back`)).status).toBe(204);
    const { feedback } = (await own(ida)).reply!;
    expect(feedback).toMatchObject({ points: [3, null], note: 'Look again at the bearing.', isSeen: false });
    const watched = await json<{ lengthSamples: number }>(ida('GET', `/watch/${feedback!.watch!}`));
    expect(watched.lengthSamples).toBe(secondsToSamples(9));
    const { pages } = await json<{ pages: string[] }>(ida('GET', `/feedback/${id}`));
    const picture = await ida('GET', `/feedback/${id}/pages/${pages[0]}/picture`);
    expect([picture.status, picture.headers.get('content-type')]).toEqual([200, 'image/png']);
    await ida('POST', `/feedback/${id}/seen`);
    expect((await own(ida)).reply!.feedback!.isSeen).toBe(true);
    await ida('PUT', `/feedback/${id}/answer`, { answer: ' Which bearing? ' });
    expect((await own(ida)).reply!.feedback!.answer).toBe('Which bearing?');
    expect(await lies(task)).toMatchObject({
      seenAt: expect.any(String),
      isChanged: false,
      answer: 'Which bearing?',
    });
    await write(call, copy, 'one-more-mark');
    expect((await lies(task))!.isChanged).toBe(true);
    await call('POST', `/hand-ins/${id}/giving-back`);
    expect((await own(ida)).reply!.feedback!.isSeen).toBe(false);
  });

  it('is seen as it was when it was given back, whatever its teacher writes since, until it is given back again', async () => {
    const task = await giveOut({ criteria });
    const { lesson: work } = await begin(ida, task);
    await handIn(ida, work);
    const { id, lesson: copy } = (await lies(task))!;
    const mark = (points: number[]) => call('PUT', `/hand-ins/${id}/marking`, { points, note: '' });
    const seen = async () => {
      const { pages } = await json<{ pages: string[] }>(ida('GET', `/feedback/${id}`));
      const picture = await ida('GET', `/feedback/${id}/pages/${pages[0]}/picture`);
      const { points } = (await own(ida)).reply!.feedback!;
      return { points, picture: Buffer.from(await picture.arrayBuffer()).toString('base64') };
    };
    await mark([3, 2]);
    await call('POST', `/hand-ins/${id}/giving-back`);
    const given = await seen();
    expect(given.points).toEqual([3, 2]);
    await write(call, copy, 'not-meant-to-be-seen-yet');
    await mark([4, 6]);
    expect(await seen()).toEqual(given);
    await call('POST', `/hand-ins/${id}/giving-back`);
    const again = await seen();
    expect(again.points).toEqual([4, 6]);
    expect(again.picture === given.picture).toBe(false);
  });

  it('gives no more points than there are, and keeps those given when criteria change', async () => {
    const task = await giveOut({ criteria });
    const { lesson: work } = await begin(ida, task);
    await handIn(ida, work);
    const { id } = (await lies(task))!;
    const mark = (points: (number | null)[]) => call('PUT', `/hand-ins/${id}/marking`, { points, note: '' });
    const refused = await mark([5, 0]);
    expect([refused.status, await messageOf(refused)]).toEqual([400, expect.stringMatching(/“Marks” counts 4/)]);
    expect([(await mark([4])).status, (await mark([-1, 0])).status, (await mark([4, 0])).status]).toEqual([
      400, 400, 204,
    ]);
    const change = (some: object[]) =>
      call('PUT', `/tasks/${task}`, { ...usualAbout, criteria: some, isClosed: false });
    expect((await change([...criteria, { name: 'More', points: 1 }])).status).toBe(400);
    expect((await change([{ name: 'Both marks', points: 4 }, criteria[1]])).status).toBe(200);
    expect((await lies(task))!.points).toEqual([4, 0]);
  });

  it('stays with its student while they hand in again', async () => {
    const task = await giveOut();
    const { lesson: work } = await begin(ida, task);
    await handIn(ida, work);
    const first = (await lies(task))!;
    await call('POST', `/hand-ins/${first.id}/giving-back`);
    await handIn(ida, work);
    expect(await lies(task)).toMatchObject({ givenAt: null, isOpened: false });
    expect((await own(ida)).reply!.feedback!.handIn).toBe(first.id);
  });
});

describe('what was made unasked', () => {
  it('is its student’s alone until it is handed in; its teacher may share it then', async () => {
    const { lesson: work } = await json<{ lesson: LessonId }>(ida('POST', '/explanations', { title: 'My knot' }));
    await record(ida, work, `take-unasked-${work.slice(0, 8)}`, 3);
    const unasked = async () =>
      (
        await json<{ unasked: { title: string; student: { name: string }; handIn: { lesson: LessonId } }[] }>(
          call('GET', `/classes/${crew}/tasks`),
        )
      ).unasked;
    expect(await unasked()).toEqual([]);
    await handIn(ida, work);
    const [one] = await unasked();
    expect(one).toMatchObject({ title: 'My knot', student: { name: 'Ida' } });
    const shared = await json<LessonDocument>(call('POST', `/lessons/${one.handIn.lesson}/publications/1`));
    expect(shared.link).not.toBeNull();
    expect((await own(ida)).task).toBeNull();
  });
});

describe('a question that is asked now', () => {
  const ask = (more: object = {}) => giveOut({ isLive: true, isOpen: true, ...more });
  const codeOf = async (task: string) => (await table(task)).task.code;

  it('is seen while it is answered, by its teacher alone, and only where it is asked now', async () => {
    const task = await ask();
    const { reply, lesson: work } = await begin(ida, task);
    const picture = (who: Caller) => who('GET', `/replies/${reply}/picture`);
    const before = Buffer.from(await (await picture(call)).arrayBuffer());
    await write(ida, work, 'drawn-now');
    const after = Buffer.from(await (await picture(call)).arrayBuffer());
    expect(after.equals(before)).toBe(false);
    expect((await picture(ole)).status).toBe(401);
    const later = await giveOut();
    const { reply: hidden } = await begin(ida, later);
    expect((await call('GET', `/replies/${hidden}/picture`)).status).toBe(404);
  });

  it('is answered by whoever has its code, under a name they write, who sees nothing else', async () => {
    await giveOut();
    const task = await ask();
    const guest = school.server.caller();
    const code = await codeOf(task);
    expect(await json(guest('GET', `/asked/${code.toLowerCase()}`))).toEqual({
      id: task,
      title: usualTask.title,
      isOpen: true,
      isOwn: false,
    });
    expect(await json(ida('GET', `/asked/${code}`))).toMatchObject({ isOwn: true });
    expect(await json(guest('POST', `/asked/${code}/guests`, { name: 'Visitor' }))).toMatchObject({ name: 'Visitor' });
    expect((await json<OwnTask[]>(guest('GET', '/own-tasks'))).map((one) => one.task!.id)).toEqual([task]);
    const { lesson: work } = await begin(guest, task);
    await write(guest, work, 'by-a-visitor');
    const { rows, task: stands } = await table(task);
    expect(rows.map(({ student }) => student.name)).toEqual(['Ida', 'Ole', 'Visitor']);
    expect(stands.students).toBe(3);
    // In the class there are no guests.
    const students = await json<{ name: string }[]>(call('GET', `/classes/${crew}/students`));
    expect(students.map(({ name }) => name)).toEqual(['Ida', 'Ole']);
    const closed = await codeOf(await giveOut());
    expect((await school.server.caller()('POST', `/asked/${closed}/guests`, { name: 'Nobody' })).status).toBe(404);
    expect((await guest('GET', '/asked/ZZZZZZ')).status).toBe(404);
  });

  it('takes one of its choices', async () => {
    const task = await ask({ choices: ['Port', 'Starboard'] });
    const { lesson: work } = await begin(ida, task);
    const choose = (choice: number | null) => ida('PUT', `/works/${work}/choice`, { choice });
    expect([(await choose(2)).status, (await choose(1)).status]).toEqual([400, 204]);
    expect((await table(task)).rows[0].reply!.choice).toBe(1);
    expect((await own(ida)).reply!.choice).toBe(1);
    await handIn(ida, work);
    await choose(0);
    expect((await lies(task))!.choice).toBe(1);
  });

  it('that is stopped is handed in as it is by all who have answered', async () => {
    const task = await ask({ choices: ['Port', 'Starboard'] });
    const { lesson: idas } = await begin(ida, task);
    await write(ida, idas, 'an-answer');
    await begin(ole, task);
    expect((await call('POST', `/tasks/${task}/stopping`)).status).toBe(204);
    const { rows, task: stands } = await table(task);
    expect([stands.isClosed, stands.handedIn]).toEqual([true, 1]);
    expect(await piecesOf(call, rows[0].reply!.handIn!.lesson)).toEqual(['mark-of-the-teacher', 'an-answer']);
    expect(rows[1].reply!.handIn).toBeNull();
    expect((await ole('PUT', `/works/${(await begin(ole, task)).lesson}/choice`, { choice: 0 })).status).toBe(409);
    // Stopped again, nothing is handed in twice.
    await call('POST', `/tasks/${task}/stopping`);
    expect((await lies(task))!.id).toBe(rows[0].reply!.handIn!.id);
  });

  it('may be a part of a page', async () => {
    await write(call, lesson.id, 'another-mark');
    const task = await ask({ pieces: ['another-mark'] });
    expect(await piecesOf(ida, (await begin(ida, task)).lesson)).toEqual(['another-mark']);
  });

  it('has answers that are laid on a page beside one another, without names', async () => {
    const task = await ask();
    for (const [who, piece] of [
      [ida, 'of-ida'],
      [ole, 'of-ole'],
    ] as const)
      await write(who, (await begin(who, task)).lesson, piece);
    const replies = (await table(task)).rows.map(({ reply }) => reply!.id);
    const { lesson: beside } = await json<{ lesson: LessonId }>(
      call('POST', `/tasks/${task}/beside`, { replies, page: null }),
    );
    const made = await json<LessonDocument>(call('GET', `/lessons/${beside}`));
    const { pieces } = decodeContents(Buffer.from(made.pages[0].pieces, 'base64'));
    const [one, other] = pieces.filter((piece) => piece.kind === 'picture');
    expect(one.frame.xPt + one.frame.widthPt).toBeLessThan(other.frame.xPt);
    expect(one.frame.widthPt / one.frame.heightPt).toBeCloseTo(16 / 9, 1);
    expect((await call('GET', `/lessons/${beside}/assets/${one.asset}`)).status).toBe(200);
    expect(JSON.stringify(made)).not.toContain('Ida');
    const foreign = (await begin(ida, await giveOut())).reply;
    expect((await call('POST', `/tasks/${task}/beside`, { replies: [foreign], page: null })).status).toBe(404);
  });
});

describe('work that came otherwise', () => {
  const bytes = Buffer.from('%PDF-1.7 of a letter');
  const page = (id: string, asset: string) => ({
    ...lesson.pages[0].page,
    id,
    sheet: { asset, pageIndex: 0, widthPt: 595.28125, heightPt: 841.875 },
  });

  it('lies with what was handed in, and leaves what its student works on as it is', async () => {
    const task = await giveOut();
    const { lesson: work } = await begin(ida, task);
    await write(ida, work, 'in-the-draft');
    const asset = await uploaded(call, bytes);
    const [student] = (await table(task)).rows.map((row) => row.student);
    const body = { student: student.id, asset, name: 'ida.pdf', pages: [page('page-of-mail', asset)] };
    const { lesson: copy } = await json<{ lesson: LessonId }>(call('POST', `/tasks/${task}/brought`, body));
    expect((await lies(task))!.lesson).toBe(copy);
    expect((await call('GET', `/lessons/${copy}/assets/${asset}`)).status).toBe(200);
    expect(await piecesOf(ida, work)).toContain('in-the-draft');
    expect((await own(ida)).reply!.handedAt).not.toBeNull();
  });

  it('is for students of the class alone, and shows its own file on every page', async () => {
    const task = await giveOut();
    const asset = await uploaded(call, bytes);
    const [student] = (await table(task)).rows.map((row) => row.student);
    const bring = (more: object) =>
      call('POST', `/tasks/${task}/brought`, {
        student: student.id,
        asset,
        name: 'a',
        pages: [page('page-one', asset)],
        ...more,
      });
    expect((await bring({ student: 'student-of-nobody' })).status).toBe(404);
    expect((await bring({ pages: [page('page-one', 'b'.repeat(64))] })).status).toBe(400);
    expect((await bring({ pages: [page('page-one', asset), page('page-one', asset)] })).status).toBe(400);
    expect(await lies(task)).toBeNull();
  });
});

it('keeps the phrases a teacher often writes', async () => {
  expect(await json(call('GET', '/phrases'))).toEqual([]);
  await call('PUT', '/phrases', [' Look again. ', 'Well seen!']);
  expect(await json(call('GET', '/phrases'))).toEqual(['Look again.', 'Well seen!']);
  expect((await call('PUT', '/phrases', [''])).status).toBe(400);
});
