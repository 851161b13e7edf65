import { LARGEST_SIGHT_BYTES, LIVE_ENDS, liveCode, shownFiles, shownKind } from '@kite-trail/core/contract/live';
import { sendAsset } from '../assets/assets';
import { sheetPicture } from '../assets/lesson-files';
import { bytes, checked, json } from '../http/body';
import { keyOf } from '../http/holders';
import { countOf } from '../http/named';
import { route, type Route } from '../http/route';
import { listenByEvents } from './events';
import { beginLive, endLive, letBeSeen, liveByCode } from './live-pages';
import { PostingShowers } from './posting-showers';
import type { Relay } from './relay';

/** Pages that are shown live. Those who keep a socket open come by `live/sockets`; here is all else, and what goes without one. */
export function liveRoutes(relay: Relay): Route[] {
  const posting = new PostingShowers(relay);
  return [
    route({
      method: 'post',
      path: '/lessons/:lesson/live',
      right: 'the lesson’s teacher',
      // The key is nobody's but this window's.
      isSecret: true,
      handle: ({ teacher, lesson, db }) => beginLive(db, teacher.id, lesson.id),
    }),
    route({
      method: 'delete',
      path: '/live',
      right: 'a teacher',
      handle: async ({ teacher, db, afterwards }) => {
        const ended = await endLive(db, teacher.id);
        if (ended) afterwards(() => relay.end(ended.token, LIVE_ENDS.over));
      },
    }),
    route({
      method: 'get',
      path: '/live/:code',
      right: 'anyone',
      handle: async ({ request, db }) => {
        const { token } = await liveByCode(db, checked(liveCode, request.params.code));
        return { token };
      },
    }),
    route({
      method: 'post',
      path: '/followed/:token/files',
      right: 'the live page’s shower',
      body: json(shownFiles, 2 ** 20),
      handle: ({ page, body, db }) => letBeSeen(db, page, body),
    }),
    route({
      method: 'post',
      path: '/followed/:token/sights/:kind',
      right: 'the live page’s shower',
      isElsewhere: true,
      body: bytes(LARGEST_SIGHT_BYTES),
      handle: ({ page, request, body }) =>
        posting.take(page.token, keyOf(request), checked(shownKind, Number(request.params.kind)), body),
    }),
    route({
      method: 'get',
      path: '/followed/:token/events',
      right: 'the live page’s follower',
      handle: ({ page, request, response, db }) => listenByEvents({ relay, db }, page.token, request, response),
    }),
    route({
      method: 'get',
      path: '/followed/:token/assets/:asset',
      right: 'the live page’s file, for its follower',
      handle: ({ asset, request, response, db }) => sendAsset(db, asset, request, response),
    }),
    route({
      method: 'get',
      path: '/followed/:token/assets/:asset/pages/:n',
      right: 'the live page’s file, for its follower',
      handle: async ({ lesson, asset, request, response, db }) => {
        const picture = await sheetPicture(db, lesson.teacher_id, asset, countOf(request.params.n, 'page'));
        await sendAsset(db, picture, request, response);
      },
    }),
  ];
}
