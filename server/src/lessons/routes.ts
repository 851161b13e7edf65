import {
  editProgramme as editBody,
  lessonName,
  newLesson,
  savePages as saveBody,
} from '@kite-trail/core/contract/lesson';
import type { Knex } from 'knex';
import type { LessonRow } from '../database/rows';
import { route, type Route } from '../http/route';
import { describeLesson, listLessons, makeLesson, renameLesson, savePages } from './lessons';
import { pictureOf } from './picture';
import { editProgramme, stepEdits } from './programmes';

export function lessonRoutes(db: Knex): Route[] {
  const describeNow = async ({ id }: LessonRow) =>
    describeLesson(db, (await db<LessonRow>('lessons').where({ id }).first())!);

  return [
    route({
      method: 'get',
      path: '/lessons',
      right: 'a teacher',
      handle: ({ teacher }) => listLessons(db, teacher.id),
    }),
    route({
      method: 'post',
      path: '/lessons',
      right: 'a teacher',
      body: newLesson,
      handle: async ({ teacher, body }) => describeLesson(db, await makeLesson(db, teacher.id, body)),
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson',
      right: 'the lesson’s teacher',
      handle: ({ lesson }) => describeLesson(db, lesson),
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/name',
      right: 'the lesson’s teacher',
      body: lessonName,
      handle: ({ lesson, body }) => renameLesson(db, lesson, body),
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/pages',
      right: 'the lesson’s teacher',
      body: saveBody,
      handle: async ({ lesson, body }) => ({ revision: await savePages(db, lesson, body) }),
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/picture',
      right: 'the lesson’s teacher',
      handle: async ({ lesson, request, response }) => {
        response.set({ ETag: `"${lesson.changed_at}"`, 'Cache-Control': 'private, no-cache' });
        if (request.fresh) return void response.status(304).end();
        response.type('png').send(await pictureOf(db, lesson));
      },
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/programme',
      right: 'the lesson’s teacher',
      body: editBody,
      handle: async ({ lesson, body }) => {
        await editProgramme(db, lesson, body.programme);
        return describeNow(lesson);
      },
    }),
    ...([-1, 1] as const).map((step) =>
      route({
        method: 'post',
        path: `/lessons/:lesson/programme/${step < 0 ? 'undo' : 'redo'}`,
        right: 'the lesson’s teacher',
        handle: async ({ lesson }) => {
          await stepEdits(db, lesson, step);
          return describeNow(lesson);
        },
      }),
    ),
  ];
}
