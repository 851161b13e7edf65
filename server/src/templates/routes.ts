import { jsonBytes, MOST_MARKS } from '../http/body';
import { route, type Route } from '../http/route';
import { dropTemplate, keepTemplate, lendFiles, listTemplates } from './templates';

const PICTURE_WIDTH_PX = 360;

export function templateRoutes(): Route[] {
  return [
    route({
      method: 'get',
      path: '/templates',
      right: 'a teacher',
      handle: ({ teacher, db }) => listTemplates(db, teacher.id),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/templates',
      right: 'the lesson’s teacher',
      body: jsonBytes(MOST_MARKS),
      prepare: ({ teacher, body, work }) => work.do('readTemplate', teacher.id, { body }, body.length),
      handle: ({ teacher, lesson, prepared, db }) => keepTemplate(db, teacher.id, lesson, prepared),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/templates/:template/files',
      right: 'the teacher of both the lesson and the template',
      handle: ({ lesson, template, db }) => lendFiles(db, template, lesson.id),
    }),
    route({
      method: 'get',
      path: '/templates/:template/pieces',
      right: 'the template’s teacher',
      handle: ({ template, response }) => response.type('application/octet-stream').send(template.pieces),
    }),
    route({
      method: 'get',
      path: '/templates/:template/picture',
      right: 'the template’s teacher',
      handle: async ({ template, response, work }) => {
        // A template never changes.
        response.set('Cache-Control', 'private, max-age=86400');
        const asked = { template: template.id, widthPx: PICTURE_WIDTH_PX };
        response.type('png').send(Buffer.from(await work.do('paintTemplate', template.teacher_id, asked)));
      },
    }),
    route({
      method: 'delete',
      path: '/templates/:template',
      right: 'the template’s teacher',
      handle: ({ template, db }) => dropTemplate(db, template),
    }),
  ];
}
