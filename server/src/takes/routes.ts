import { nameTake as nameBody } from '@kite-trail/core/contract/lesson';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import { sendAsset } from '../assets/assets';
import { notFound } from '../http/problem';
import { countOf } from '../http/named';
import { bytes, json, MOST_EDITION, MOST_KEPT, MOST_MARKS } from '../http/body';
import { largeJson } from '../http/large-json';
import { route, type Route } from '../http/route';
import { tellLesson } from '../lessons/describe';
import { windowOf, type LessonNews } from '../lessons/news';
import type { RecordingClaims } from './claims';
import {
  beginTake,
  binTake,
  endTake,
  keepBeginning,
  keepPart,
  keepProfile,
  keptParts,
  nameTake,
  unbinTake,
} from './takes';

export function takeRoutes(news: LessonNews, claims: RecordingClaims): Route[] {
  const present = (asset: AssetId | null): AssetId => {
    if (!asset) throw notFound('recording');
    return asset;
  };

  return [
    route({
      method: 'post',
      path: '/lessons/:lesson/takes',
      right: 'the lesson’s writer',
      body: largeJson('newTake', MOST_EDITION),
      handle: ({ lesson, body, request, db }) => beginTake(db, lesson, windowOf(request), body),
    }),
    route({
      method: 'get',
      path: '/takes/:take/parts',
      right: 'the take’s writer',
      handle: async ({ take, db }) => ({ parts: await keptParts(db, take) }),
    }),
    route({
      method: 'put',
      path: '/takes/:take/parts/:n',
      right: 'the take’s writer',
      body: bytes(MOST_MARKS),
      prepare: ({ lesson, body, work }) => work.do('readPart', lesson.teacher_id, { bytes: body }, body.length),
      handle: async ({ lesson, take, request, body, db }) => {
        claims.renew(lesson.id, windowOf(request));
        await keepPart(db, take, countOf(request.params.n, 'part'), body);
      },
    }),
    route({
      method: 'post',
      path: '/takes/:take/end',
      right: 'the take’s writer',
      body: largeJson('endTake', MOST_EDITION),
      prepare: ({ lesson, take, body, work }) =>
        work.do('gatherTake', lesson.teacher_id, { take: take.id, isWhole: !body.recover }),
      tells: tellLesson,
      handle: async ({ lesson, take, body, request, prepared, db, afterwards }) => {
        await endTake(db, lesson, take, body, prepared);
        afterwards(() => news.tell(lesson.id, request));
        return lesson.id;
      },
    }),
    route({
      method: 'post',
      path: '/takes/:take/beginning',
      right: 'the take’s writer',
      prepare: ({ lesson, take, work }) => work.do('gatherTake', lesson.teacher_id, { take: take.id, isWhole: false }),
      tells: tellLesson,
      handle: async ({ lesson, take, request, prepared, db, afterwards }) => {
        claims.refuseOthers(lesson.id, windowOf(request));
        await keepBeginning(db, lesson, take, prepared);
        afterwards(() => news.tell(lesson.id, request));
        return lesson.id;
      },
    }),
    route({
      method: 'put',
      path: '/takes/:take/name',
      right: 'the take’s writer',
      body: json(nameBody),
      tells: tellLesson,
      handle: async ({ lesson, take, body, request, db, afterwards }) => {
        await nameTake(db, take, body.name);
        afterwards(() => news.tell(lesson.id, request));
        return lesson.id;
      },
    }),
    ...([binTake, unbinTake] as const).map((change) =>
      route({
        method: change === binTake ? 'put' : 'delete',
        path: '/takes/:take/bin',
        right: 'the take’s writer',
        tells: tellLesson,
        handle: async ({ lesson, take, request, db, afterwards }) => {
          claims.refuseOthers(lesson.id, windowOf(request));
          await change(db, lesson, take);
          afterwards(() => news.tell(lesson.id, request));
          return lesson.id;
        },
      }),
    ),
    route({
      method: 'put',
      path: '/takes/:take/profile',
      right: 'the take’s writer',
      body: bytes(MOST_KEPT),
      prepare: ({ lesson, body, work }) => work.do('readProfile', lesson.teacher_id, { bytes: body }, body.length),
      handle: ({ take, body, prepared: id, db }) => keepProfile(db, take, { id, bytes: body }),
    }),
    route({
      method: 'get',
      path: '/takes/:take/profile',
      right: 'the take’s writer',
      handle: ({ take, request, response, db }) => sendAsset(db, present(take.profile_asset), request, response),
    }),
    route({
      method: 'get',
      path: '/takes/:take/marks',
      right: 'the take’s writer',
      handle: ({ take, request, response, db }) => sendAsset(db, present(take.marks_asset), request, response),
    }),
    route({
      method: 'get',
      path: '/takes/:take/sound',
      right: 'the take’s writer',
      handle: ({ take, request, response, db }) => sendAsset(db, present(take.sound_asset), request, response),
    }),
  ];
}
