import { arrivingLesson, assetsOfArchived, MOST_ARCHIVED, TOO_MANY_ARCHIVED } from '@kite-trail/core/contract/archive';
import { lessonId } from '@kite-trail/core/contract/primitives';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import { z } from 'zod';
import { listClasses } from '../classes/classes';
import { checked, json, jsonBytes } from '../http/body';
import { badInput } from '../http/problem';
import { route, type Route } from '../http/route';
import { tellLesson } from '../lessons/describe';
import { addLesson, addLessons, archiveName } from './archive';
import { bringLesson, heldBy, wantedOf, type Arrived } from './arriving';
import { ArchivePlan } from './plan';

const MEGABYTE = 2 ** 20;
/** All that is written in a lesson, with all versions of it. */
const MOST_WRITTEN = 96 * MEGABYTE;
/** The names of all that is in a lesson. */
const MOST_NAMES = 8 * MEGABYTE;
/** As many as an address can name. */
const asked = z
  .string('Choose a lesson first.')
  .transform((ids) => ids.split(','))
  .pipe(z.array(lessonId).min(1).max(MOST_ARCHIVED, TOO_MANY_ARCHIVED));

export function archiveRoutes(): Route[] {
  return [
    route({
      method: 'get',
      path: '/lessons/:lesson/archive',
      right: 'the lesson’s teacher',
      handle: ({ lesson, request, response, db, work }) =>
        ArchivePlan.send({ db, request, response }, archiveName(lesson.title), async (archive) => {
          await addLesson({ db, work }, archive, lesson);
        }),
    }),
    route({
      method: 'get',
      path: '/classes/:class/archive',
      right: 'the class’s teacher',
      handle: ({ schoolClass, request, response, db, work }) =>
        ArchivePlan.send({ db, request, response }, archiveName(schoolClass.name), async (archive) => {
          const own = (await listClasses(db, schoolClass.teacher_id)).filter(({ id }) => id === schoolClass.id);
          await addLessons({ db, work }, archive, schoolClass.teacher_id, own[0].lessons);
          archive.nameClasses(own);
          if (archive.lessons.length === 0) throw badInput('There is no lesson in this class yet.');
        }),
    }),
    route({
      method: 'get',
      path: '/archive',
      right: 'a teacher',
      handle: ({ teacher, request, response, db, work }) => {
        const ids = checked(asked, request.query.lessons);
        return ArchivePlan.send({ db, request, response }, archiveName('Lessons'), async (archive) => {
          await addLessons({ db, work }, archive, teacher.id, ids);
          if (archive.lessons.length === 0) throw badInput('None of these lessons is here, or yours.');
        });
      },
    }),
    route({
      method: 'post',
      path: '/archives/wanted',
      right: 'a teacher',
      body: json(arrivingLesson, MOST_NAMES),
      handle: ({ teacher, body, db }) => wantedOf(db, teacher.id, body),
    }),
    route({
      method: 'post',
      path: '/archives/lessons',
      right: 'a teacher',
      body: jsonBytes(MOST_WRITTEN),
      prepare: async ({ teacher, body, db, work }) => {
        const brought = await work.do('readBrought', teacher.id, { body }, body.length);
        const arrived = new Map<AssetId, Arrived>();
        const held = await heldBy(db, teacher.id);
        for (const [asset, uses] of assetsOfArchived(brought.lesson)) {
          arrived.set(
            asset,
            await work.do('checkArrived', teacher.id, { teacher: teacher.id, asset, uses, isHeld: held.has(asset) }),
          );
        }
        return { brought, arrived };
      },
      tells: tellLesson,
      handle: ({ teacher, prepared: { brought, arrived }, db }) => bringLesson(db, teacher.id, brought, arrived),
    }),
  ];
}
