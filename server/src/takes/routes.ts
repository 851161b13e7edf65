import { endTake as endBody, nameTake as nameBody, newTake } from '@kite-trail/core/contract/lesson';
import type { Knex } from 'knex';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { LessonRow } from '../database/rows';
import { sendAsset } from '../assets/assets';
import { badInput, notFound } from '../http/problem';
import { route, type Route } from '../http/route';
import { describeLesson } from '../lessons/lessons';
import { windowOf, type LessonNews } from '../lessons/news';
import type { RecordingClaims } from './claims';
import { beginTake, binTake, endTake, keepPart, keepProfile, keptParts, nameTake } from './takes';

export function takeRoutes(db: Knex, news: LessonNews, claims: RecordingClaims): Route[] {
  const describeNow = async ({ id }: LessonRow) =>
    describeLesson(db, (await db<LessonRow>('lessons').where({ id }).first())!);
  const present = (asset: AssetId | null): AssetId => {
    if (!asset) throw notFound('recording');
    return asset;
  };

  return [
    route({
      method: 'post',
      path: '/lessons/:lesson/takes',
      right: 'the lesson’s teacher',
      body: newTake,
      handle: ({ lesson, body }) => beginTake(db, lesson, body),
    }),
    route({
      method: 'get',
      path: '/takes/:take/parts',
      right: 'the take’s teacher',
      handle: async ({ take }) => ({ parts: await keptParts(db, take) }),
    }),
    route({
      method: 'put',
      path: '/takes/:take/parts/:n',
      right: 'the take’s teacher',
      handle: async ({ lesson, take, request }) => {
        claims.renew(lesson.id, windowOf(request));
        const n = Number(request.params.n);
        if (!Number.isInteger(n) || n < 0) throw badInput('A part needs a number.');
        if (!Buffer.isBuffer(request.body)) throw badInput('A part is sent as application/octet-stream.');
        await keepPart(db, take, n, request.body);
      },
    }),
    route({
      method: 'post',
      path: '/takes/:take/end',
      right: 'the take’s teacher',
      body: endBody,
      handle: async ({ lesson, take, body, request }) => {
        await endTake(db, lesson, take, body);
        news.tell(lesson.id, request);
        return describeNow(lesson);
      },
    }),
    route({
      method: 'put',
      path: '/takes/:take/name',
      right: 'the take’s teacher',
      body: nameBody,
      handle: async ({ lesson, take, body, request }) => {
        await nameTake(db, take, body.name);
        news.tell(lesson.id, request);
        return describeNow(lesson);
      },
    }),
    ...([true, false] as const).map((isBinned) =>
      route({
        method: isBinned ? 'put' : 'delete',
        path: '/takes/:take/bin',
        right: 'the take’s teacher',
        handle: async ({ lesson, take, request }) => {
          await binTake(db, lesson, take, isBinned);
          news.tell(lesson.id, request);
          return describeNow(lesson);
        },
      }),
    ),
    route({
      method: 'put',
      path: '/takes/:take/profile',
      right: 'the take’s teacher',
      handle: async ({ take, request }) => {
        if (!Buffer.isBuffer(request.body)) throw badInput('A profile is sent as application/octet-stream.');
        await keepProfile(db, take, request.body);
      },
    }),
    route({
      method: 'get',
      path: '/takes/:take/profile',
      right: 'the take’s teacher',
      handle: ({ take, request, response }) => sendAsset(db, present(take.profile_asset), request, response),
    }),
    route({
      method: 'get',
      path: '/takes/:take/marks',
      right: 'the take’s teacher',
      handle: ({ take, request, response }) => sendAsset(db, present(take.marks_asset), request, response),
    }),
    route({
      method: 'get',
      path: '/takes/:take/sound',
      right: 'the take’s teacher',
      handle: ({ take, request, response }) => sendAsset(db, present(take.sound_asset), request, response),
    }),
  ];
}
