import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { planFor, useTake, type TakePlan } from '@kite-trail/core/trail/plan';
import { playsAsRecorded, programmeLength } from '@kite-trail/core/trail/programme';
import { beforeEach, describe, expect, it } from 'vitest';
import { json, part, testSchool } from '../testing';

const SECOND = 48_000;

const { call } = testSchool();
let lesson: LessonDocument;
let takes = 0;

const device = { 'x-window': 'at-sea' };
const ashore = { 'x-window': 'ashore' };

beforeEach(async () => {
  lesson = await json(call('POST', '/lessons', { title: 'Rounding up' }));
  const id = `take-in-harbour-${takes++}`;
  await call('POST', `/lessons/${lesson.id}/takes`, { id, hasSound: true });
  await call('PUT', `/takes/${id}/parts/0`, part(10 * SECOND));
  lesson = await json(call('POST', `/takes/${id}/end`, { parts: 1 }));
});

describe('a recording whose beginning was kept on another device', () => {
  const begin = async (plan: TakePlan = { kind: 'carry-on' }) => {
    const id = `take-at-sea-${takes++}` as TakeId;
    await call('POST', `/lessons/${lesson.id}/takes`, { id, hasSound: true, plan }, device);
    await call('PUT', `/takes/${id}/parts/0`, part(3 * SECOND), device);
    return id;
  };
  const keep = (id: TakeId) => json<LessonDocument>(call('POST', `/takes/${id}/beginning`, undefined, ashore));
  const end = (id: TakeId, parts: number, more: object = {}) =>
    json<LessonDocument>(call('POST', `/takes/${id}/end`, { parts, ...more }, device));
  const played = ({ edition }: LessonDocument) => edition.programme.filter(playsAsRecorded).map(({ take }) => take);
  const first = () => lesson.takes[0].id;

  it('goes on when its device is back, and plays whole in the place of it; both can be chosen', async () => {
    const id = await begin();
    const kept = await keep(id);
    const beginning = kept.takes.find((take) => take.id === id)!.keptAs!;
    expect(played(kept)).toEqual([first(), beginning]);
    expect(kept.takes.find((take) => take.id === beginning)).toMatchObject({ ended: true, lengthSamples: 3 * SECOND });
    expect((await call('PUT', `/takes/${id}/parts/1`, part(8 * SECOND), device)).status).toBe(204);
    const ended = await end(id, 2);
    expect(played(ended)).toEqual([first(), id]);
    expect(programmeLength(ended.edition.programme)).toBe(18 * SECOND);
    const chosen = useTake(ended.edition.programme, beginning, ended.takes);
    expect(programmeLength(chosen)).toBe(13 * SECOND);
    expect(programmeLength(useTake(chosen, id, ended.takes))).toBe(18 * SECOND);
  });

  it('is kept once, and again only with what has come since', async () => {
    const id = await begin();
    const once = await keep(id);
    expect(await keep(id)).toEqual(once);
    expect(once.takes.find((take) => take.id === id)!.partCount).toBe(0);
    await call('PUT', `/takes/${id}/parts/1`, part(5 * SECOND), device);
    const twice = await keep(id);
    expect(programmeLength(twice.edition.programme)).toBe(15 * SECOND);
    expect(played(twice)).toHaveLength(2);
    expect(programmeLength((await end(id, 2)).edition.programme)).toBe(15 * SECOND);
  });

  it('plays nowhere where its beginning was edited meanwhile, and waits among the takes', async () => {
    const id = await begin();
    lesson = await keep(id);
    await call('PUT', `/lessons/${lesson.id}/edition`, {
      from: lesson.edit,
      edition: { ...lesson.edition, programme: lesson.edition.programme.slice(0, 1) },
    });
    await call('PUT', `/takes/${id}/parts/1`, part(8 * SECOND), device);
    const ended = await end(id, 2);
    expect(played(ended)).toEqual([first()]);
    expect(ended.takes.find((take) => take.id === id)).toMatchObject({ ended: true, lengthSamples: 8 * SECOND });
  });

  it('goes into the stretch it was made for', async () => {
    const id = await begin(planFor('retake', lesson.edition.programme, 4 * SECOND, 6 * SECOND));
    expect(programmeLength((await keep(id)).edition.programme)).toBe(11 * SECOND);
    await call('PUT', `/takes/${id}/parts/1`, part(8 * SECOND), device);
    const ended = await end(id, 2);
    expect(played(ended)).toEqual([first(), id, first()]);
    expect(programmeLength(ended.edition.programme)).toBe(16 * SECOND);
  });

  it('is not cut while its device is there', async () => {
    await call('POST', `/lessons/${lesson.id}/recording`, undefined, device);
    const id = await begin();
    const refused = await call('POST', `/takes/${id}/beginning`, undefined, ashore);
    expect(refused.status).toBe(409);
    await call('DELETE', `/lessons/${lesson.id}/recording`, undefined, device);
  });
});
