import { classAbout, classOrder, newClass, placing } from '@kite-trail/core/contract/class';
import { json } from '../http/body';
import { route, type Route } from '../http/route';
import { changeClass, dropClass, listClasses, makeClass, orderClasses, placeLessons } from './classes';

/** A teacher’s classes, and which lessons stand in them. */
export function classRoutes(): Route[] {
  return [
    route({
      method: 'get',
      path: '/classes',
      right: 'a teacher',
      handle: ({ teacher, db }) => listClasses(db, teacher.id),
    }),
    route({
      method: 'post',
      path: '/classes',
      right: 'a teacher',
      body: json(newClass),
      handle: async ({ teacher, body, db }) => ({ id: await makeClass(db, teacher.id, body) }),
    }),
    route({
      method: 'put',
      path: '/classes',
      right: 'a teacher',
      body: json(classOrder),
      handle: ({ teacher, body, db }) => orderClasses(db, teacher.id, body.classes),
    }),
    route({
      method: 'put',
      path: '/classes/:class',
      right: 'the class’s teacher',
      body: json(classAbout),
      handle: ({ schoolClass, body, db }) => changeClass(db, schoolClass, body),
    }),
    route({
      method: 'delete',
      path: '/classes/:class',
      right: 'the class’s teacher',
      handle: ({ schoolClass, db }) => dropClass(db, schoolClass),
    }),
    route({
      method: 'post',
      path: '/placing',
      right: 'a teacher',
      body: json(placing),
      handle: ({ teacher, body, db }) => placeLessons(db, teacher.id, body),
    }),
  ];
}
