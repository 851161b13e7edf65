import { liveCode } from '@kite-trail/core/contract/live';
import { newGuest } from '@kite-trail/core/contract/student';
import {
  answering,
  besideOnPage,
  broughtWork,
  changeTask as changeBody,
  choosing,
  handingIn,
  marking,
  newExplanation,
  newTask,
  phrases,
} from '@kite-trail/core/contract/task';
import { pageId } from '@kite-trail/core/contract/primitives';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Request } from 'express';
import { sendAsset } from '../assets/assets';
import type { ReplyRow, StudentRow } from '../database/rows';
import { inTransaction } from '../database/transaction';
import { json } from '../http/body';
import { startSession } from '../http/sessions';
import { tasksOf } from '../http/students';
import { notFound } from '../http/problem';
import { route, type Route } from '../http/route';
import { writtenBytes } from '../lessons/lessons';
import { dropTask } from '../students/forgetting';
import { refuseTeacher } from '../students/routes';
import { addGuest, describeStudent } from '../students/students';
import type { Found } from '../work/jobs';
import { aboutOf } from './about';
import { layBeside } from './beside';
import { bringWork } from './brought';
import { answer, giveBack, givenPages, handIn, keepMarking, open, see, stop, takeBack } from './hand-ins';
import { listUnasked, markingTable } from './marking-table';
import { keepPhrases, phrasesOf } from './phrases';
import { beginReply, choose, explain, listOwn } from './replies';
import { changeTask, giveOut, listTasks, summaryOf, taskByCode } from './tasks';

const PAGE_WIDTH_PX = 1600;
const SMALL_WIDTH_PX = 640;

/** What is given to a class, what its students make of it, and what they get back. */
export function taskRoutes(): Route[] {
  return [...routesOfTeachers(), ...routesOfStudents()];
}

function routesOfTeachers(): Route[] {
  return [
    route({
      method: 'post',
      path: '/lessons/:lesson/tasks',
      right: 'the lesson’s teacher',
      body: json(newTask),
      prepare: async ({ lesson, db, work }) =>
        work.do('gatherPages', lesson.teacher_id, { lesson: lesson.id }, await writtenBytes(db, lesson.id)),
      handle: async ({ teacher, lesson, body, prepared, db }) => ({
        id: await giveOut(db, teacher, lesson, body, prepared),
      }),
    }),
    route({
      method: 'get',
      path: '/classes/:class/tasks',
      right: 'the class’s teacher',
      handle: async ({ schoolClass, db }) => ({
        className: schoolClass.name,
        tasks: await listTasks(db, schoolClass),
        unasked: await listUnasked(db, schoolClass),
      }),
    }),
    route({
      method: 'get',
      path: '/tasks/:task',
      right: 'the task’s teacher',
      handle: ({ task, db }) => markingTable(db, task),
    }),
    route({
      method: 'put',
      path: '/tasks/:task',
      right: 'the task’s teacher',
      body: json(changeBody),
      handle: async ({ task, body, db }) => {
        await changeTask(db, task, body);
        return summaryOf(db, (await db('tasks').where({ id: task.id }).first())!);
      },
    }),
    route({
      method: 'delete',
      path: '/tasks/:task',
      right: 'the task’s teacher',
      handle: ({ task, db }) => dropTask(db, task),
    }),
    route({
      method: 'post',
      path: '/tasks/:task/stopping',
      right: 'the task’s teacher',
      prepare: async ({ task, db, work }) => {
        const found = new Map<LessonId, Found<'gatherForOthers'>>();
        for (const { lesson_id: lesson } of await db<ReplyRow>('replies').where({ task_id: task.id })) {
          const bytes = await writtenBytes(db, lesson);
          found.set(lesson, await work.do('gatherForOthers', `${task.class_id} is stopped`, { lesson }, bytes));
        }
        return found;
      },
      handle: ({ task, prepared, db }) => stop(db, task, prepared),
    }),
    route({
      method: 'post',
      path: '/tasks/:task/beside',
      right: 'the task’s teacher',
      body: json(besideOnPage),
      prepare: ({ teacher, task, body, work }) => work.do('paintBeside', teacher.id, { task: task.id, ...body }),
      handle: async ({ teacher, task, prepared, db }) => ({ lesson: await layBeside(db, teacher, task, prepared) }),
    }),
    route({
      method: 'post',
      path: '/tasks/:task/brought',
      right: 'the task’s teacher',
      body: json(broughtWork),
      prepare: ({ teacher, body: { asset }, work }) =>
        work.do('checkUpload', teacher.id, { teacher: teacher.id, asset }),
      handle: async ({ teacher, task, body, prepared, db }) => ({
        lesson: await bringWork(db, teacher, task, body, prepared),
      }),
    }),
    route({
      method: 'get',
      path: '/phrases',
      right: 'a teacher',
      handle: ({ teacher }) => phrasesOf(teacher),
    }),
    route({
      method: 'put',
      path: '/phrases',
      right: 'a teacher',
      body: json(phrases),
      handle: async ({ teacher, body, db }) => void (await keepPhrases(db, teacher, body)),
    }),
    route({
      method: 'get',
      path: '/replies/:reply/picture',
      right: 'the live reply’s teacher',
      handle: async ({ reply: { lesson_id: lesson }, response, work }) => {
        response.set('Cache-Control', 'private, no-cache');
        const asked = { lesson, widthPx: SMALL_WIDTH_PX };
        response.type('png').send(Buffer.from(await work.do('paintLesson', `${lesson} live`, asked)));
      },
    }),
    route({
      method: 'put',
      path: '/hand-ins/:handIn/marking',
      right: 'the hand-in’s teacher',
      body: json(marking),
      handle: ({ handIn: row, body, db }) => keepMarking(db, row, body),
    }),
    route({
      method: 'post',
      path: '/hand-ins/:handIn/opening',
      right: 'the hand-in’s teacher',
      handle: async ({ handIn: row, db }) => void (await open(db, row)),
    }),
    route({
      method: 'post',
      path: '/hand-ins/:handIn/giving-back',
      right: 'the hand-in’s teacher',
      prepare: ({ lesson, work }) =>
        work.do('paintPages', lesson.teacher_id, { lesson: lesson.id, widthPx: PAGE_WIDTH_PX }),
      handle: ({ handIn: row, prepared, db }) => giveBack(db, row, prepared),
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/pages/:page/picture',
      right: 'the lesson’s teacher',
      handle: async ({ lesson: { id: lesson }, request, response, work }) => {
        const page = pageId.safeParse(request.params.page);
        const asked = page.success ? { lesson, page: page.data, widthPx: SMALL_WIDTH_PX } : null;
        const png = asked && (await work.do('paintPage', `${lesson} pages`, asked));
        if (!png) throw notFound('page');
        response.set('Cache-Control', 'private, no-cache').type('png').send(Buffer.from(png));
      },
    }),
  ];
}

function routesOfStudents(): Route[] {
  return [
    route({
      method: 'get',
      path: '/own-tasks',
      right: 'a student',
      handle: ({ student, db }) => listOwn(db, student),
    }),
    route({
      method: 'post',
      path: '/own-tasks/:task/reply',
      right: 'the student’s task',
      handle: async ({ student, task, db }) => {
        const { id: reply, lesson_id: lesson } = await beginReply(db, student, task);
        return { reply, lesson };
      },
    }),
    route({
      method: 'put',
      path: '/works/:lesson/choice',
      right: 'the reply’s student',
      body: json(choosing),
      handle: ({ reply, body, db }) => choose(db, reply, body.choice),
    }),
    route({
      method: 'get',
      path: '/asked/:code',
      right: 'anyone',
      handle: async ({ request, db }) => {
        const task = await taskByCode(db, codeOf(request));
        const { title, isOpen } = aboutOf(task);
        const { studentId: id } = request.session;
        const student = id && (await db<StudentRow>('students').where({ id }).first());
        const isOwn = student ? (await tasksOf(db, student).where({ id: task.id }).first()) !== undefined : false;
        return { id: task.id, title, isOpen, isOwn };
      },
    }),
    route({
      method: 'post',
      path: '/asked/:code/guests',
      right: 'anyone',
      body: json(newGuest),
      handle: async ({ request, body, db }) => {
        refuseTeacher(request);
        const guest = await inTransaction(db, async (trx) => {
          const task = await taskByCode(trx, codeOf(request));
          if (!aboutOf(task).isOpen) throw notFound('task');
          return addGuest(trx, task, body.name);
        });
        await startSession(request, { studentId: guest.id });
        return describeStudent(db, guest.id);
      },
    }),
    route({
      method: 'post',
      path: '/explanations',
      right: 'a student',
      body: json(newExplanation),
      handle: async ({ student, body, db }) => {
        const { id: reply, lesson_id: lesson } = await explain(db, student, body.title);
        return { reply, lesson };
      },
    }),
    route({
      method: 'post',
      path: '/works/:lesson/hand-in',
      right: 'the reply’s student',
      body: json(handingIn),
      prepare: async ({ lesson, db, work }) =>
        work.do('gatherForOthers', lesson.teacher_id, { lesson: lesson.id }, await writtenBytes(db, lesson.id)),
      handle: ({ student, reply, lesson, body, prepared, db }) =>
        handIn(db, student, reply, lesson, body.saidAt, prepared),
    }),
    route({
      method: 'delete',
      path: '/works/:lesson/hand-in',
      right: 'the reply’s student',
      handle: ({ reply, db }) => takeBack(db, reply),
    }),
    route({
      method: 'get',
      path: '/feedback/:handIn',
      right: 'the feedback’s student',
      handle: async ({ handIn: row, db }) => ({
        pages: (await givenPages(db, row)).map(({ page_id }) => page_id),
      }),
    }),
    route({
      method: 'post',
      path: '/feedback/:handIn/seen',
      right: 'the feedback’s student',
      handle: async ({ handIn: row, db }) => void (await see(db, row)),
    }),
    route({
      method: 'put',
      path: '/feedback/:handIn/answer',
      right: 'the feedback’s student',
      body: json(answering),
      handle: async ({ handIn: row, body, db }) => void (await answer(db, row, body.answer)),
    }),
    route({
      method: 'get',
      path: '/feedback/:handIn/pages/:page/picture',
      right: 'the feedback’s student',
      handle: async ({ handIn: row, request, response, db }) => {
        const found = (await givenPages(db, row)).find(({ page_id }) => page_id === request.params.page);
        if (!found) throw notFound('page');
        await sendAsset(db, found.picture_asset, request, response);
      },
    }),
  ];
}

/** The code a request names, in letters of either size. */
const codeOf = ({ params }: Request): string => {
  const code = liveCode.safeParse(params.code);
  if (!code.success) throw notFound('task');
  return code.data;
};
