import { favouring } from '@kite-trail/core/contract/class';
import { stepEdits as stepBody, lessonAbout, lessonName, newLesson } from '@kite-trail/core/contract/lesson';
import { newVersion } from '@kite-trail/core/contract/edition';
import { addToClasses } from '../classes/classes';
import { json, jsonBytes, MOST_EDITION, MOST_MARKS } from '../http/body';
import { route, type Route } from '../http/route';
import { isStillIn } from '../http/sessions';
import { changeLesson } from './changes';
import { copyLesson } from './copy';
import { duplicateLesson } from './duplicate';
import { tellEdit, tellLesson } from './describe';
import { favour, listedBytes, makeLesson, renameLesson, sayAbout, writtenBytes } from './lessons';
import type { RecordingClaims } from '../takes/claims';
import { windowOf, type LessonNews } from './news';
import { keepEdition, stepEdits } from './editions';
import { dropVersion, keepVersion, useVersion } from './versions';

const PICTURE_WIDTH_PX = 640;

export function lessonRoutes(news: LessonNews, claims: RecordingClaims): Route[] {
  return [
    route({
      method: 'get',
      path: '/lessons',
      right: 'a teacher',
      // Nobody's list waits until their pictures are painted.
      handle: async ({ teacher, db, work }) =>
        work.do('listLessons', `${teacher.id} lists`, { teacher: teacher.id }, await listedBytes(db, teacher.id)),
    }),
    route({
      method: 'post',
      path: '/lessons',
      right: 'a teacher',
      body: json(newLesson),
      tells: tellLesson,
      handle: async ({ teacher, body: { title, classes }, db }) => {
        const lesson = await makeLesson(db, teacher.id, title);
        await addToClasses(db, lesson, classes);
        return lesson.id;
      },
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson',
      right: 'the lesson’s writer',
      tells: tellLesson,
      handle: ({ lesson }) => lesson.id,
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/copy',
      right: 'the lesson’s teacher',
      prepare: async ({ lesson, db, work }) =>
        work.do('gatherPages', lesson.teacher_id, { lesson: lesson.id }, await writtenBytes(db, lesson.id)),
      tells: tellLesson,
      handle: async ({ teacher, lesson, prepared, db }) => (await copyLesson(db, teacher.id, lesson, prepared)).id,
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/duplicate',
      right: 'the lesson’s teacher',
      prepare: async ({ lesson, db, work }) =>
        work.do('gatherDuplicate', lesson.teacher_id, { lesson: lesson.id }, await writtenBytes(db, lesson.id)),
      tells: tellLesson,
      handle: async ({ teacher, lesson, prepared, db }) => (await duplicateLesson(db, teacher.id, lesson, prepared)).id,
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/name',
      right: 'the lesson’s writer',
      body: json(lessonName),
      handle: async ({ lesson, body, request, db, afterwards }) => {
        await renameLesson(db, lesson, body.title);
        afterwards(() => news.tell(lesson.id, request));
      },
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/about',
      right: 'the lesson’s teacher',
      body: json(lessonAbout),
      handle: async ({ lesson, body, request, db, afterwards }) => {
        await sayAbout(db, lesson, body);
        afterwards(() => news.tell(lesson.id, request));
      },
    }),
    route({
      method: 'post',
      path: '/favourites',
      right: 'a teacher',
      body: json(favouring),
      handle: ({ teacher, body, db }) => favour(db, teacher.id, body.lessons, body.isFavourite),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/changes',
      right: 'the lesson’s writer',
      body: jsonBytes(MOST_MARKS),
      prepare: async ({ lesson, body, request, db, work }) => {
        const asked = { lesson: lesson.id, window: windowOf(request), body };
        return work.do('foldChanges', lesson.teacher_id, asked, body.length + (await writtenBytes(db, lesson.id)));
      },
      handle: async ({ writer, lesson, body, request, prepared, db, afterwards }) => {
        const asked = { lesson: lesson.id, window: windowOf(request), body };
        const answer = await changeLesson(db, writer.teacher.id, lesson, asked, prepared);
        afterwards(() => news.tell(lesson.id, request));
        return answer;
      },
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/news',
      right: 'the lesson’s writer',
      handle: async ({ lesson, request, response, db }) =>
        news.listen(lesson.id, windowOf(request), response, claims.holder(lesson.id), () => isStillIn(db, request)),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/recording',
      right: 'the lesson’s writer',
      handle: async ({ lesson, request }) => claims.claim(lesson.id, windowOf(request)),
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/recording',
      right: 'the lesson’s writer',
      handle: async ({ lesson, request }) => claims.release(lesson.id, windowOf(request)),
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/undrawn',
      right: 'the lesson’s writer',
      handle: ({ lesson, work }) => work.do('undrawnPages', lesson.teacher_id, { lesson: lesson.id }),
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/picture',
      right: 'the lesson’s writer',
      handle: async ({ lesson, request, response, work }) => {
        response.set({ ETag: `"${lesson.changed_at}"`, 'Cache-Control': 'private, no-cache' });
        if (request.fresh) return void response.status(304).end();
        const asked = { lesson: lesson.id, widthPx: PICTURE_WIDTH_PX };
        response.type('png').send(Buffer.from(await work.do('paintLesson', lesson.teacher_id, asked)));
      },
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/edition',
      right: 'the lesson’s writer',
      body: jsonBytes(MOST_EDITION),
      prepare: ({ lesson, body, work }) => work.do('readEdit', lesson.teacher_id, { body }, body.length),
      tells: tellEdit,
      handle: async ({ lesson, prepared: { written, from }, request, db, afterwards }) => {
        claims.refuseOthers(lesson.id, windowOf(request));
        await keepEdition(db, lesson, written, from);
        afterwards(() => news.tell(lesson.id, request));
        return lesson.id;
      },
    }),
    ...([-1, 1] as const).map((step) =>
      route({
        method: 'post',
        path: `/lessons/:lesson/edition/${step < 0 ? 'undo' : 'redo'}`,
        right: 'the lesson’s writer',
        body: json(stepBody),
        tells: tellEdit,
        handle: async ({ lesson, body, request, db, afterwards }) => {
          claims.refuseOthers(lesson.id, windowOf(request));
          await stepEdits(db, lesson, step, body.from);
          afterwards(() => news.tell(lesson.id, request));
          return lesson.id;
        },
      }),
    ),
    route({
      method: 'post',
      path: '/lessons/:lesson/versions',
      right: 'the lesson’s teacher',
      body: json(newVersion),
      prepare: async ({ lesson, db, work }) =>
        work.do('writeVersion', lesson.teacher_id, { lesson: lesson.id }, await writtenBytes(db, lesson.id)),
      tells: tellLesson,
      handle: async ({ lesson, body, prepared, db }) => {
        await keepVersion(db, lesson, body.name, prepared);
        return lesson.id;
      },
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/versions/:version/use',
      right: 'the lesson’s teacher',
      prepare: async ({ lesson, request, work }) => {
        const asked = { lesson: lesson.id, version: String(request.params.version) };
        return work.do('readVersion', lesson.teacher_id, asked);
      },
      tells: tellLesson,
      handle: async ({ lesson, prepared, request, db, afterwards }) => {
        claims.refuseOthers(lesson.id, windowOf(request));
        await useVersion(db, lesson, String(request.params.version), prepared);
        afterwards(() => news.tell(lesson.id, request));
        return lesson.id;
      },
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/versions/:version',
      right: 'the lesson’s teacher',
      tells: tellLesson,
      handle: async ({ lesson, request, db }) => {
        await dropVersion(db, lesson, String(request.params.version));
        return lesson.id;
      },
    }),
  ];
}
