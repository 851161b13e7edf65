import { sendAsset } from '../assets/assets';
import { notFound } from '../http/problem';
import { route, type Route } from '../http/route';
import { describeLessonNow } from '../lessons/lessons';
import { describeWatch, publicationOf, publish, withdraw } from './publishing';

export function publishingRoutes(): Route[] {
  return [
    route({
      method: 'post',
      path: '/lessons/:lesson/publications/:programme',
      right: 'the lesson’s teacher',
      handle: async ({ lesson, request, db }) => {
        const sound = Buffer.isBuffer(request.body) ? request.body : new Uint8Array();
        await publish(db, lesson, { programmeN: Number(request.params.programme), sound });
        return describeLessonNow(db, lesson);
      },
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/link',
      right: 'the lesson’s teacher',
      handle: async ({ lesson, db }) => {
        await withdraw(db, lesson);
        return describeLessonNow(db, lesson);
      },
    }),
    route({
      method: 'get',
      path: '/watch/:token',
      right: 'the link’s holder',
      handle: async ({ link, db }) => describeWatch(await publicationOf(db, link)),
    }),
    route({
      method: 'get',
      path: '/watch/:token/payload',
      right: 'the link’s holder',
      handle: async ({ link, request, response, db }) =>
        sendAsset(db, (await publicationOf(db, link)).payload_asset, request, response, 'ask each time'),
    }),
    route({
      method: 'get',
      path: '/watch/:token/captions',
      right: 'the link’s holder',
      handle: async ({ link, response, db }) => {
        const { captions } = await publicationOf(db, link);
        if (captions === null) throw notFound('captions');
        response.set('Cache-Control', 'no-cache').type('text/vtt').send(captions);
      },
    }),
    route({
      method: 'get',
      path: '/watch/:token/sound',
      right: 'the link’s holder',
      handle: async ({ link, request, response, db }) => {
        const { sound_asset } = await publicationOf(db, link);
        if (!sound_asset) throw notFound('sound');
        await sendAsset(db, sound_asset, request, response, 'ask each time');
      },
    }),
  ];
}
