import { newPublication } from '@kite-trail/core/contract/upload';
import { NEVER_CHANGES, sendAsset } from '../assets/assets';
import { json } from '../http/body';
import { notFound } from '../http/problem';
import { countOf } from '../http/named';
import { route, type Route } from '../http/route';
import { tellLesson } from '../lessons/describe';
import { rulesOf } from '../links/live';
import { describeWatch } from './describe-watch';
import { newestOf, publish, publishedSheet } from './publishing';

/** What one publication plays never changes; what its link leads to may. */
const PUBLICATION = '/watch/:token/publications/:publication';

export function publishingRoutes(): Route[] {
  return [
    route({
      method: 'post',
      path: '/lessons/:lesson/publications/:programme',
      right: 'the lesson’s teacher',
      body: json(newPublication),
      prepare: async ({ teacher, lesson, body: { sound, part }, work }) => ({
        played: await work.do('makePublishable', lesson.teacher_id, { lesson: lesson.id, part }),
        mixed: sound && (await work.do('checkUpload', teacher.id, { teacher: teacher.id, asset: sound })),
      }),
      tells: tellLesson,
      handle: async ({ teacher, lesson, request, body, prepared, db }) => {
        const programmeN = countOf(request.params.programme, 'edit');
        await publish(db, teacher.id, lesson, { programmeN, ...body }, prepared);
        return lesson.id;
      },
    }),
    route({
      method: 'get',
      path: '/watch/:token',
      right: 'the link’s holder',
      handle: async ({ link, db, work }) => describeWatch({ db, work }, link, await newestOf(db, link)),
    }),
    route({
      method: 'get',
      path: `${PUBLICATION}/payload`,
      right: 'the link’s publication, for its holder',
      handle: ({ publication, request, response, db }) => sendAsset(db, publication.payload_asset, request, response),
    }),
    route({
      method: 'get',
      path: `${PUBLICATION}/captions`,
      right: 'the link’s publication, for its holder',
      handle: ({ link, publication: { captions }, response }) => {
        if (captions === null || !rulesOf(link).allows.captions) throw notFound('captions');
        response.set('Cache-Control', NEVER_CHANGES).type('text/vtt').send(captions);
      },
    }),
    route({
      method: 'get',
      path: `${PUBLICATION}/sound`,
      right: 'the link’s publication, for its holder',
      handle: async ({ publication: { sound_asset }, request, response, db }) => {
        if (!sound_asset) throw notFound('sound');
        await sendAsset(db, sound_asset, request, response);
      },
    }),
    route({
      method: 'get',
      path: `${PUBLICATION}/picture`,
      right: 'the link’s publication, for its holder',
      handle: async ({ publication: { picture_asset }, request, response, db }) => {
        if (!picture_asset) throw notFound('picture');
        await sendAsset(db, picture_asset, request, response);
      },
    }),
    route({
      method: 'get',
      path: `${PUBLICATION}/assets/:asset`,
      right: 'the publication’s file, for the link’s holder',
      handle: ({ asset, request, response, db }) => sendAsset(db, asset, request, response),
    }),
    route({
      method: 'get',
      path: `${PUBLICATION}/assets/:asset/pages/:n`,
      right: 'the publication’s file, for the link’s holder',
      handle: async ({ publication, asset, request, response, db }) => {
        const picture = await publishedSheet(db, publication, asset, countOf(request.params.n, 'page'));
        await sendAsset(db, picture, request, response);
      },
    }),
  ];
}
