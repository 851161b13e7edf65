import { changedLink, newLink, newPasscode, passcodeTry } from '@kite-trail/core/contract/link';
import { hash } from 'argon2';
import { json } from '../http/body';
import { RequestProblem } from '../http/problem';
import { route, type Route } from '../http/route';
import { classPageOf, closePage, renewPage } from './class-page';
import { changeLink, listLinks, makeLink, noteWatched, setPasscode, withdraw } from './links';
import { isPasscodeOf, passOf } from './passcode';

/** A lesson's links, what each allows, and the pages of classes. */
export function linkRoutes(): Route[] {
  return [
    route({
      method: 'get',
      path: '/lessons/:lesson/links',
      right: 'the lesson’s teacher',
      handle: ({ lesson, db }) => listLinks(db, lesson),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/links',
      right: 'the lesson’s teacher',
      body: json(newLink),
      handle: async ({ teacher, lesson, body, db }) => ({
        made: await makeLink(db, teacher.id, lesson, body),
        links: await listLinks(db, lesson),
      }),
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/links/:token',
      right: 'the lesson’s link, for its teacher',
      body: json(changedLink),
      handle: async ({ teacher, lesson, link, body, db }) => {
        await changeLink(db, teacher.id, link, body);
        return listLinks(db, lesson);
      },
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/links/:token/passcode',
      right: 'the lesson’s link, for its teacher',
      body: json(newPasscode),
      // Nothing of a passcode is kept but its hash.
      isSecret: true,
      prepare: async ({ body: { passcode } }) => passcode && hash(passcode),
      handle: async ({ lesson, link, prepared, db }) => {
        await setPasscode(db, link, prepared);
        return listLinks(db, lesson);
      },
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/links/:token',
      right: 'the lesson’s link, for its teacher',
      handle: async ({ lesson, link, db }) => {
        await withdraw(db, link);
        return listLinks(db, lesson);
      },
    }),
    route({
      method: 'post',
      path: '/watch/:token/passcode',
      right: 'the link’s holder, before its passcode',
      body: json(passcodeTry),
      isSecret: true,
      prepare: ({ link, body }) => isPasscodeOf(link, body.passcode),
      handle: ({ link, prepared: isRight }) => {
        if (!isRight)
          throw new RequestProblem(403, 'wrong-passcode', 'This is not the passcode. Look at it once more.');
        return { pass: passOf(link) };
      },
    }),
    route({
      method: 'post',
      path: '/watch/:token/watched',
      right: 'the link’s holder',
      handle: ({ link, db }) => noteWatched(db, link),
    }),
    route({
      method: 'post',
      path: '/classes/:class/page',
      right: 'the class’s teacher',
      handle: ({ schoolClass, db }) => renewPage(db, schoolClass),
    }),
    route({
      method: 'delete',
      path: '/classes/:class/page',
      right: 'the class’s teacher',
      handle: ({ schoolClass, db }) => closePage(db, schoolClass),
    }),
    route({
      method: 'get',
      path: '/class-pages/:token',
      right: 'the class page’s holder',
      handle: ({ schoolClass, db }) => classPageOf(db, schoolClass),
    }),
  ];
}
