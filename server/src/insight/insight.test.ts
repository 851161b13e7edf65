import type { Insight, VisitReport } from '@kite-trail/core/contract/visit';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { Watch } from '@kite-trail/core/contract/watch';
import { cut } from '@kite-trail/core/trail/edit';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { beforeEach, describe, expect, it } from 'vitest';
import { json, messageOf, sharedLesson, testSchool, type Caller } from '../testing';
import { forgetVisits } from './visits';

const { school, call } = testSchool('keeper@example.org', { isKeeper: true });
const student: Caller = (...what) => school.server.caller()(...what);
let lesson: LessonDocument;
let token: string;
let publication: string;
let made = 0;
beforeEach(async () => {
  lesson = await sharedLesson(call, { title: 'Leading lights' }, { take: `take-of-visits-${made++}`, seconds: 10 });
  token = lesson.link!.token;
  publication = (await json<Watch>(student('GET', `/watch/${token}`))).publication;
});

const visitOf = (name: string) => `${name}-${token.slice(0, 9)}`.padEnd(21, '-');
const nothing = { n: 0, heard: [], wentBack: [], slowed: [], heardSeconds: 0, at: 0 };
const report = (visit: string, what: Partial<VisitReport>, of = publication) =>
  student('POST', `/watch/${token}/publications/${of}/visits`, { ...nothing, visit: visitOf(visit), ...what });
const insight = () => json<Insight>(call('GET', `/lessons/${lesson.id}/insight`));

describe('visits', () => {
  it('are counted step by step: heard, gone back to, slowed, and where they ended', async () => {
    await report('one', { heard: [1, 1], heardSeconds: 4, at: 1 });
    await report('one', { n: 1, heard: [0, 1, 1], wentBack: [0, 1], slowed: [0, 0, 1], heardSeconds: 4.4, at: 2 });
    await report('one', { n: 2, at: 0 });
    await report('two', { heard: [1, 1, 1, 1, 1], heardSeconds: 10, at: 4 });
    const { links, isCounted, isCounting, lengthSamples } = await insight();
    expect([isCounted, isCounting, lengthSamples]).toEqual([true, true, 480_000]);
    expect(links[0]).toMatchObject({ token, visits: 2 });
    expect(links[0].sums).toEqual({
      heard: [2, 3, 2, 1, 1],
      wentBack: [0, 1, 0, 0, 0],
      slowed: [0, 0, 1, 0, 0],
      stopped: [1, 0, 0, 0, 1],
      furthest: [0, 0, 1, 0, 1],
    });
    const today = new Date().toISOString().slice(0, 10);
    expect(links[0].days).toEqual([{ day: today, visits: 2, heardSeconds: 18 }]);
  });

  it('count once what comes twice, and by their own link alone', async () => {
    for (let i = 0; i < 3; i++) await report('again', { heard: [1], at: 0 });
    const other = await sharedLesson(call, { title: 'Sectors' }, { take: `take-of-visits-${made++}`, seconds: 10 });
    const about = await json<Watch>(student('GET', `/watch/${other.link!.token}`));
    expect((await report('again', { n: 7, heard: [1], at: 0 }, about.publication)).status).toBe(404);
    const elsewhere = `/watch/${other.link!.token}/publications/${about.publication}/visits`;
    await student('POST', elsewhere, { ...nothing, visit: visitOf('again'), n: 7, heard: [5] });
    expect((await insight()).links[0]).toMatchObject({ visits: 1, sums: { heard: [1, 0, 0, 0, 0] } });
    expect((await json<Insight>(call('GET', `/lessons/${other.id}/insight`))).links[0].visits).toBe(0);
  });

  it('are found where it plays after an edit', async () => {
    await report('one', { heard: [1, 2, 3, 4, 5], at: 4 });
    const programme = cut(lesson.edition.programme, { fromSamples: 0, toSamples: secondsToSamples(4) }, 'keep');
    const body = { from: lesson.edit, edition: { ...lesson.edition, programme } };
    await call('PUT', `/lessons/${lesson.id}/edition`, body);
    expect((await insight()).links[0].sums).toMatchObject({ heard: [3, 4, 5], stopped: [0, 0, 1] });
    // Shared anew, old and new counts are together.
    await call('POST', `/lessons/${lesson.id}/publications/2`);
    publication = (await json<Watch>(student('GET', `/watch/${token}`))).publication;
    await report('two', { heard: [1, 0, 0], at: 0 });
    expect((await insight()).links[0]).toMatchObject({ visits: 2, sums: { heard: [4, 4, 5], stopped: [1, 0, 1] } });
  });

  it('leave their sums when they are over, and nothing else', async () => {
    await report('one', { heard: [1], at: 0 });
    await school.server.db('visits').update({ seen_at: '2026-01-01T00:00:00.000Z' });
    await forgetVisits(school.server.db);
    expect(await school.server.db('visits')).toEqual([]);
    expect((await insight()).links[0].visits).toBe(1);
    expect((await call('DELETE', `/lessons/${lesson.id}/insight`)).status).toBe(204);
    expect((await insight()).links[0]).toMatchObject({ visits: 0, days: [] });
  });

  it('are not counted where the lesson or the school does not want it, and whoever watches is told', async () => {
    const isCounted = async () => (await json<Watch>(student('GET', `/watch/${token}`))).isCounted;
    expect(await isCounted()).toBe(true);
    await call('PUT', `/lessons/${lesson.id}/counting`, { isCounted: false });
    await report('one', { heard: [1], at: 0 });
    expect([await isCounted(), (await insight()).isCounted, (await insight()).links[0].visits]).toEqual([
      false,
      false,
      0,
    ]);
    await call('PUT', `/lessons/${lesson.id}/counting`, { isCounted: true });
    await call('PUT', '/school/counting', { isCounting: false });
    await report('one', { heard: [1], at: 0 });
    expect([await isCounted(), (await insight()).isCounting, (await insight()).links[0].visits]).toEqual([
      false,
      false,
      0,
    ]);
    const other = await school.server.signedIn('no-keeper@example.org');
    expect((await other('PUT', '/school/counting', { isCounting: true })).status).toBe(404);
    expect(await json(other('GET', '/school/counting'))).toEqual({ isCounting: false });
    await call('PUT', '/school/counting', { isCounting: true });
    expect(await isCounted()).toBe(true);
  });

  it('that cannot be are refused, and change nothing', async () => {
    for (const odd of [{ at: 200 }, { heard: Array(201).fill(1) }, { heard: [-1] }, { heard: [101] }, { n: 0.5 }]) {
      expect((await report('odd', odd as never)).status).toBe(400);
    }
    expect(await messageOf(await report('short', { visit: 'short' }))).toMatch(/not a visit/);
    // Steps beyond the lesson's end are none of it.
    await report('one', { heard: Array(200).fill(1), at: 199 });
    expect((await insight()).links[0].sums).toMatchObject({ heard: [1, 1, 1, 1, 1], stopped: [0, 0, 0, 0, 1] });
  });
});
