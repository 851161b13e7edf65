import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { decodeHeard, encodeHeard } from '@kite-trail/core/formats/profile-coding';
import { decodeMarks } from '@kite-trail/core/formats/marks-coding';
import type { LessonId, PageId, PieceId, TakeId } from '@kite-trail/core/lesson/ids';
import type { Change } from '@kite-trail/core/lesson/mark';
import { joinHeard, type HeardVoice } from '@kite-trail/core/sound/profile';
import { planFor, type TakePlan } from '@kite-trail/core/trail/plan';
import { playsAsRecorded, segmentLength, takesIn, voiceOf, type Programme } from '@kite-trail/core/trail/programme';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { changesBody, json, messageOf, part, testSchool } from '../testing';
import { LessonNews } from '../lessons/news';
import { RecordingClaims } from './claims';

const SECOND = 48_000;

const { school, call } = testSchool();
let lesson: LessonDocument;
let takes = 0;
beforeEach(async () => {
  lesson = await json(call('POST', '/lessons', { title: 'Rounding up' }));
  lesson = (await record(10, { kind: 'carry-on' })).after;
});

/** The body that lets the lesson play this. */
const playing = (programme: Programme) => ({ from: lesson.edit, edition: { ...lesson.edition, programme } });

/** Records a take of so many seconds. */
async function record(
  seconds: number,
  plan: TakePlan,
  endPlan?: TakePlan,
): Promise<{ take: TakeId; after: LessonDocument }> {
  const take = `take-000${takes++}` as TakeId;
  await call('POST', `/lessons/${lesson.id}/takes`, { id: take, hasSound: true, plan });
  await call('PUT', `/takes/${take}/parts/0`, part(seconds * SECOND));
  return { take, after: await json(call('POST', `/takes/${take}/end`, { parts: 1, plan: endPlan })) };
}

describe('a take that was planned', () => {
  it('plays in the place of the stretch it was made for', async () => {
    const { take, after } = await record(2, planFor('retake', lesson.edition.programme, 3 * SECOND, 7 * SECOND));
    const timed = after.edition.programme.filter(playsAsRecorded);
    const [first] = lesson.edition.programme;
    expect(timed).toEqual([
      { ...first, toSamples: 3 * SECOND },
      { kind: 'play', take, fromSamples: 0, toSamples: 2 * SECOND, pace: 1 },
      { ...first, fromSamples: 7 * SECOND },
    ]);
    expect(after.takes.map(({ plan }) => plan.kind)).toEqual(['carry-on', 'retake']);
  });

  it('takes the plan it ended with, such as with the holds of a new voice', async () => {
    const plan = planFor('re-speak', lesson.edition.programme, 2 * SECOND, 4 * SECOND);
    const holds = [{ atSamples: SECOND, forSamples: 3 * SECOND }];
    const { take, after } = await record(5, plan, { ...plan, kind: 're-speak', holds });
    const voices = after.edition.programme.map((one) => voiceOf(one)?.take);
    expect(voices).toContain(take);
    expect(after.edition.programme.some((one) => one.take === take && segmentLength(one) === 3 * SECOND)).toBe(true);
  });

  it('is kept but not played when its stretch has gone meanwhile', async () => {
    const plan = planFor('retake', lesson.edition.programme, 3 * SECOND, 7 * SECOND);
    const [first] = lesson.edition.programme;
    const programme = [{ ...first, fromSamples: 5 * SECOND }];
    await call('PUT', `/lessons/${lesson.id}/edition`, playing(programme));
    const { take, after } = await record(2, plan);
    expect(after.edition.programme).toEqual(programme);
    expect(after.takes.find(({ id }) => id === take)?.ended).toBe(true);
  });

  it('leaves what was changed since the last take to the next that carries on', async () => {
    const { page } = lesson.pages[0];
    const { after } = await record(1, { kind: 'insert', atSamples: 4 * SECOND });
    expect(after.between).toBe(lesson.between);
    expect(page.id).toBe(after.pages[0].page.id);
  });
});

describe('a programme with another voice', () => {
  it('is refused where that voice is not so long', async () => {
    const { take, after } = await record(2, { kind: 'carry-on' });
    lesson = after;
    const [first] = lesson.edition.programme;
    const over = (fromSamples: number) => [{ ...first, toSamples: 2 * SECOND, voice: { take, fromSamples } }];
    const put = (programme: Programme) => call('PUT', `/lessons/${lesson.id}/edition`, playing(programme));
    expect((await put(over(1))).status).toBe(400);
    expect((await put(over(0))).status).toBe(200);
  });
});

describe('what was heard of a voice', () => {
  const MINUTE = 60 * SECOND;
  /** A minute that is as loud as it is told to be, as it reads back. */
  const minute = (peak: number): HeardVoice => ({
    peaks: new Uint8Array(60 * 400).fill(peak),
    energies: new Float32Array(60 * 100).fill(1),
    noise: [],
  });
  const heardOf = async (take: TakeId) =>
    decodeHeard(new Uint8Array(await (await call('GET', `/takes/${take}/profile`)).arrayBuffer()));
  const profileIn = ({ takes }: LessonDocument, take: TakeId) => takes.find(({ id }) => id === take)!.hasProfile;

  /** Sends the take's parts, as many as come before it breaks off. */
  async function begin(...parts: Uint8Array[]): Promise<TakeId> {
    const take = `take-000${takes++}` as TakeId;
    await call('POST', `/lessons/${lesson.id}/takes`, { id: take, hasSound: true, plan: { kind: 'carry-on' } });
    for (const [n, bytes] of parts.entries()) await call('PUT', `/takes/${take}/parts/${n}`, bytes);
    return take;
  }

  it('comes with the parts of a take, and is kept with it, also of one that broke off', async () => {
    const take = await begin(
      part(MINUTE - SECOND),
      part(MINUTE, { heard: minute(10) }),
      part(2 * MINUTE, { heard: minute(20) }),
      part(2 * MINUTE + SECOND),
    );
    const after = await json<LessonDocument>(call('POST', `/takes/${take}/end`, { parts: 0, recover: true }));
    expect(profileIn(after, take)).toBe(true);
    expect(await heardOf(take)).toEqual(joinHeard([minute(10), minute(20)]));
  });

  it('is not there where nothing was heard, and can be handed in later, but not damaged', async () => {
    const { take, after } = await record(2, { kind: 'carry-on' });
    expect(profileIn(after, take)).toBe(false);
    expect((await call('GET', `/takes/${take}/profile`)).status).toBe(404);
    const put = (bytes: Uint8Array) => call('PUT', `/takes/${take}/profile`, bytes);
    expect((await put(Uint8Array.of(9))).status).toBe(400);
    expect((await put(encodeHeard(minute(30)))).status).toBe(204);
    expect((await put(encodeHeard(minute(40)).subarray(0, 50))).status).toBe(400);
    expect(await heardOf(take)).toEqual(minute(30));
    expect(profileIn(await json(call('GET', `/lessons/${lesson.id}`)), take)).toBe(true);
  });

  it('cannot be handed in before the take has ended', async () => {
    const take = await begin(part(SECOND));
    const refused = await call('PUT', `/takes/${take}/profile`, encodeHeard(minute(30)));
    expect(refused.status).toBe(409);
    expect(await messageOf(refused)).toMatch(/has not ended yet/);
  });
});

describe('a take that has ended', () => {
  it('says so to whoever sends more of it, instead of dropping it, and takes again what is in it', async () => {
    const { take } = await record(2, { kind: 'carry-on' });
    expect((await call('PUT', `/takes/${take}/parts/0`, part(2 * SECOND))).status).toBe(204);
    const more = await call('PUT', `/takes/${take}/parts/1`, part(4 * SECOND));
    expect(more.status).toBe(409);
    expect(await messageOf(more)).toMatch(/ended already/);
    expect((await call('POST', `/takes/${take}/end`, { parts: 1 })).status).toBe(200);
    expect((await call('POST', `/takes/${take}/end`, { parts: 2 })).status).toBe(409);
  });

  it('belongs to one lesson, and is not mixed with another one’s of the same name', async () => {
    const other = await json<LessonDocument>(call('POST', '/lessons', { title: 'Elsewhere' }));
    const [{ id }] = lesson.takes;
    expect((await call('POST', `/lessons/${other.id}/takes`, { id, hasSound: true })).status).toBe(409);
    expect((await call('POST', `/lessons/${lesson.id}/takes`, { id, hasSound: true })).status).toBe(204);
  });
});

describe('what another window changes while a take is recorded', () => {
  it('stays to begin the next one, and what its own window had changed is in the take', async () => {
    const as = (window: string) => ({ 'x-window': window });
    const page = lesson.pages[0].page.id;
    const turn: Change = { kind: 'turn', page };
    const lift = (id: string): Change => ({ kind: 'lift', page, pieceIds: [id as PieceId] });
    const path = `/lessons/${lesson.id}`;
    await call('POST', `${path}/changes`, changesBody(lesson, [turn]), as('one'));
    const id = `take-beside-${Date.now()}`;
    const { revision } = await json<LessonDocument>(call('GET', path));
    await call('POST', `${path}/takes`, { id, hasSound: true, revision }, as('one'));
    await call('PUT', `/takes/${id}/parts/0`, part(SECOND));
    await call('POST', `${path}/changes`, changesBody({ revision }, [lift('from-another')]), as('two'));
    // It was made before, but arrives late.
    await call('POST', `${path}/changes`, changesBody({ revision }, [lift('its-own')]), as('one'));
    const ended = await json<LessonDocument>(call('POST', `/takes/${id}/end`, { parts: 1 }, as('one')));
    expect(decodeMarks(Buffer.from(ended.between, 'base64'))).toEqual([{ ...lift('from-another'), atSamples: 0 }]);
  });

  it('loses nothing that its own window has changed and the take does not begin with', async () => {
    const as = (window: string) => ({ 'x-window': window });
    const [{ page }] = lesson.pages;
    const more = (id: string): Change => ({ kind: 'add-page', page: { ...page, id: id as PageId }, after: page.id });
    const path = `/lessons/${lesson.id}`;
    const id = `take-lacking-${Date.now()}`;
    const begun = [{ ...more('page-in-the-take'), atSamples: 0 }];
    await call('POST', `${path}/changes`, changesBody(lesson, [more('page-in-the-take')]), as('one'));
    await call('POST', `${path}/takes`, { id, hasSound: true, revision: lesson.revision }, as('one'));
    await call('PUT', `/takes/${id}/parts/0`, part(SECOND, { marks: begun }));
    // Such as what a window that is gone had left, and the one that took it over does not show yet.
    await call('POST', `${path}/changes`, changesBody(lesson, [more('page-that-was-late')]), as('one'));
    const ended = await json<LessonDocument>(call('POST', `/takes/${id}/end`, { parts: 1 }, as('one')));
    expect(decodeMarks(Buffer.from(ended.between, 'base64'))).toEqual([
      { ...more('page-that-was-late'), atSamples: 0 },
    ]);
  });

  it('is in the pages where it was the first, and there only', async () => {
    const as = (window: string) => ({ 'x-window': window });
    const fresh = await json<LessonDocument>(call('POST', '/lessons', { title: 'Tides' }));
    const path = `/lessons/${fresh.id}`;
    const id = `take-of-tides-${Date.now()}`;
    await call('POST', `${path}/takes`, { id, hasSound: true, revision: fresh.revision }, as('one'));
    await call('PUT', `/takes/${id}/parts/0`, part(SECOND));
    const [{ page }] = fresh.pages;
    const more: Change = { kind: 'add-page', page: { ...page, id: 'page-of-another' as PageId }, after: page.id };
    expect((await call('POST', `${path}/changes`, changesBody(fresh, [more]), as('two'))).status).toBe(200);
    const ended = await json<LessonDocument>(call('POST', `/takes/${id}/end`, { parts: 1 }, as('one')));
    expect(ended.pages.map((one) => one.page.id)).toEqual([page.id, 'page-of-another']);
    expect(decodeMarks(Buffer.from(ended.between, 'base64'))).toEqual([]);
  });
});

describe('the list of takes', () => {
  it('keeps names', async () => {
    const [{ id }] = lesson.takes;
    const named = await json<LessonDocument>(call('PUT', `/takes/${id}/name`, { name: '  First try ' }));
    expect(named.takes[0].name).toBe('First try');
    expect((await call('PUT', `/takes/${id}/name`, { name: 'x'.repeat(81) })).status).toBe(400);
  });

  it('takes out of the trail what it bins, and puts it back where it played', async () => {
    const [{ id }] = lesson.takes;
    const { programme } = lesson.edition;
    const binned = await json<LessonDocument>(call('PUT', `/takes/${id}/bin`));
    expect(binned.takes[0].isBinned).toBe(true);
    expect(takesIn(binned.edition.programme).has(id)).toBe(false);
    const back = await json<LessonDocument>(call('DELETE', `/takes/${id}/bin`));
    expect(back.takes[0].isBinned).toBe(false);
    expect(back.edition.programme).toEqual(programme);
    expect(back.edit.n).toBe(lesson.edit.n + 2);
  });

  it('puts back nothing into the trail that did not play, and knows no edit that is gone', async () => {
    const [{ id }] = lesson.takes;
    await call('PUT', `/lessons/${lesson.id}/edition`, playing([]));
    await call('PUT', `/takes/${id}/bin`);
    expect((await json<LessonDocument>(call('DELETE', `/takes/${id}/bin`))).edition.programme).toEqual([]);
    await call('POST', `/lessons/${lesson.id}/edition/undo`);
    await call('PUT', `/takes/${id}/bin`);
    await school.server.db('takes').where({ id }).update({ binned_from: 99 });
    const back = await json<LessonDocument>(call('DELETE', `/takes/${id}/bin`));
    expect(takesIn(back.edition.programme).has(id)).toBe(false);
  });
});

describe('the claim to record', () => {
  const as = (window: string) => ({ 'x-window': window });

  it('keeps other windows from recording and editing, and says why', async () => {
    const path = `/lessons/${lesson.id}/recording`;
    expect((await call('POST', path, undefined, as('one'))).status).toBe(204);
    expect((await call('POST', path, undefined, as('one'))).status).toBe(204);
    const refused = await call('POST', path, undefined, as('two'));
    expect(refused.status).toBe(409);
    expect(await messageOf(refused)).toMatch(/being recorded in another window/);
    const edit = (window: string) =>
      call('PUT', `/lessons/${lesson.id}/edition`, playing(lesson.edition.programme), as(window));
    expect((await edit('two')).status).toBe(409);
    expect((await edit('one')).status).toBe(200);
    await call('DELETE', path, undefined, as('two'));
    expect((await call('POST', path, undefined, as('two'))).status).toBe(409);
    await call('DELETE', path, undefined, as('one'));
    expect((await call('POST', path, undefined, as('two'))).status).toBe(204);
  });

  it('is over when its window has gone for a while, but not when it is only slow', () => {
    let nowMs = 0;
    const claims = new RecordingClaims(new LessonNews(), () => nowMs);
    const id = 'lesson-one' as LessonId;
    claims.claim(id, 'one');
    nowMs = 7000;
    claims.renew(id, 'one');
    nowMs = 14_000;
    expect(claims.holder(id)).toBe('one');
    expect(() => claims.claim(id, 'two')).toThrow(/another window/);
    nowMs = 15_001;
    expect(claims.holder(id)).toBeNull();
    claims.claim(id, 'two');
    claims.renew(id, 'one');
    expect(claims.holder(id)).toBe('two');
  });

  it('is told to be over though parts that the window had left still come for a while', () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] });
    const news = new LessonNews();
    const told = vi.spyOn(news, 'tellHolder');
    const claims = new RecordingClaims(news);
    const id = 'lesson-one' as LessonId;
    claims.claim(id, 'one');
    news.onGone(id, 'one');
    vi.advanceTimersByTime(3000);
    claims.renew(id, 'one');
    vi.advanceTimersByTime(7000);
    expect(told).toHaveBeenLastCalledWith(id, 'one');
    vi.advanceTimersByTime(2000);
    expect(told).toHaveBeenLastCalledWith(id, null);
    vi.useRealTimers();
  });
});
