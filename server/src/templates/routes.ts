import { newTemplate } from '@kite-trail/core/contract/template';
import type { Knex } from 'knex';
import { pngOf } from '../assets/images';
import { route, type Route } from '../http/route';
import { dropTemplate, keepTemplate, lendFiles, listTemplates, stateOf } from './templates';

const PICTURE_WIDTH_PX = 360;

export function templateRoutes(db: Knex): Route[] {
  return [
    route({
      method: 'get',
      path: '/templates',
      right: 'a teacher',
      handle: ({ teacher }) => listTemplates(db, teacher.id),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/templates',
      right: 'the lesson’s teacher',
      body: newTemplate,
      handle: ({ lesson, body }) => keepTemplate(db, lesson, body),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/templates/:template/files',
      right: 'the teacher of both the lesson and the template',
      handle: ({ lesson, template }) => lendFiles(db, template, lesson.id),
    }),
    route({
      method: 'get',
      path: '/templates/:template/picture',
      right: 'the template’s teacher',
      handle: async ({ template, response }) => {
        // A template never changes.
        response.set('Cache-Control', 'private, max-age=86400');
        response.type('png').send(await pngOf(db, stateOf(template), PICTURE_WIDTH_PX));
      },
    }),
    route({
      method: 'delete',
      path: '/templates/:template',
      right: 'the template’s teacher',
      handle: ({ template }) => dropTemplate(db, template),
    }),
  ];
}
