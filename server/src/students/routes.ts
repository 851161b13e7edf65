import { newStudents, renameStudent as nameBody, studentDoor, studentsKept } from '@kite-trail/core/contract/student';
import type { Request } from 'express';
import { json } from '../http/body';
import { noted } from '../http/log';
import { conflict } from '../http/problem';
import { route, type Route } from '../http/route';
import { startSession } from '../http/sessions';
import { sendAllOf } from './all-of-theirs';
import { dropStudent, keepDays, keptDays } from './forgetting';
import { addStudents, describeStudent, listStudents, renameStudent, renewKey, studentByKey } from './students';

/** What a teacher's device owes is theirs: they sign out themselves. @throws RequestProblem where one is signed in */
export function refuseTeacher({ session }: Request): void {
  if (session.teacherId === undefined) return;
  throw conflict('teacher-here', 'A teacher is signed in on this device. Sign out first, or use another browser.');
}

/** Who is in a class, and how they come in. */
export function studentRoutes(): Route[] {
  return [
    route({
      method: 'post',
      path: '/student-session',
      right: 'anyone',
      body: json(studentDoor),
      handle: async ({ request, body, db }) => {
        refuseTeacher(request);
        const student = await studentByKey(db, body.key).catch(noted(request, 'key refused'));
        await startSession(request, { studentId: student.id });
        return describeStudent(db, student.id);
      },
    }),
    route({
      method: 'get',
      path: '/classes/:class/students',
      right: 'the class’s teacher',
      handle: ({ schoolClass, db }) => listStudents(db, schoolClass),
    }),
    route({
      method: 'post',
      path: '/classes/:class/students',
      right: 'the class’s teacher',
      body: json(newStudents),
      isSecret: true,
      handle: async ({ schoolClass, body, db }) => {
        await addStudents(db, schoolClass, body.names);
        return listStudents(db, schoolClass);
      },
    }),
    route({
      method: 'put',
      path: '/students/:student',
      right: 'the student’s teacher',
      body: json(nameBody),
      handle: ({ student, body, db }) => renameStudent(db, student, body.name),
    }),
    route({
      method: 'post',
      path: '/students/:student/key',
      right: 'the student’s teacher',
      handle: async ({ student, request, db }) => {
        await renewKey(db, student);
        request.noteSecurity('key renewed');
      },
    }),
    route({
      method: 'get',
      path: '/students/:student/archive',
      right: 'the student’s teacher',
      handle: ({ student, request, response, db, work }) => sendAllOf({ db, work, request, response }, student),
    }),
    route({
      method: 'get',
      path: '/own-archive',
      right: 'a student',
      handle: ({ student, request, response, db, work }) => sendAllOf({ db, work, request, response }, student),
    }),
    route({
      method: 'delete',
      path: '/students/:student',
      right: 'the student’s teacher',
      handle: async ({ student, request, db }) => {
        await dropStudent(db, student);
        request.noteSecurity('student deleted');
      },
    }),
    route({
      method: 'get',
      path: '/school/students',
      right: 'a teacher',
      handle: async ({ db }) => ({ keptDays: await keptDays(db) }),
    }),
    route({
      method: 'put',
      path: '/school/students',
      right: 'a keeper of the school',
      body: json(studentsKept),
      handle: async ({ body, db }) => void (await keepDays(db, body.keptDays)),
    }),
  ];
}
