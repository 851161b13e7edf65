import type { Knex } from 'knex';
import { sendAsset } from '../assets/assets';
import type { LessonRow } from '../database/rows';
import { notFound } from '../http/problem';
import { route, type Route } from '../http/route';
import { describeLesson } from '../lessons/lessons';
import { describeWatch, publicationOf, publish, withdraw } from './publishing';

export function publishingRoutes(db: Knex): Route[] {
  const describeNow = async ({ id }: LessonRow) =>
    describeLesson(db, (await db<LessonRow>('lessons').where({ id }).first())!);

  return [
    route({
      method: 'post',
      path: '/lessons/:lesson/publications/:programme',
      right: 'the lesson’s teacher',
      handle: async ({ lesson, request }) => {
        const sound = Buffer.isBuffer(request.body) ? request.body : new Uint8Array();
        await publish(db, lesson, { programmeN: Number(request.params.programme), sound });
        return describeNow(lesson);
      },
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/link',
      right: 'the lesson’s teacher',
      handle: async ({ lesson }) => {
        await withdraw(db, lesson);
        return describeNow(lesson);
      },
    }),
    route({
      method: 'get',
      path: '/watch/:token',
      right: 'the link’s holder',
      handle: async ({ link }) => describeWatch(await publicationOf(db, link)),
    }),
    route({
      method: 'get',
      path: '/watch/:token/payload',
      right: 'the link’s holder',
      handle: async ({ link, request, response }) =>
        sendAsset(db, (await publicationOf(db, link)).payload_asset, request, response, 'ask each time'),
    }),
    route({
      method: 'get',
      path: '/watch/:token/captions',
      right: 'the link’s holder',
      handle: async ({ link, response }) => {
        const { captions } = await publicationOf(db, link);
        if (captions === null) throw notFound('captions');
        response.set('Cache-Control', 'no-cache').type('text/vtt').send(captions);
      },
    }),
    route({
      method: 'get',
      path: '/watch/:token/sound',
      right: 'the link’s holder',
      handle: async ({ link, request, response }) => {
        const { sound_asset } = await publicationOf(db, link);
        if (!sound_asset) throw notFound('sound');
        await sendAsset(db, sound_asset, request, response, 'ask each time');
      },
    }),
  ];
}
