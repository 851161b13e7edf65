import { newMails, type Mails } from '@kite-trail/core/contract/mail';
import type { Knex } from 'knex';
import type { LessonRow, TeacherRow } from '../database/rows';
import { json } from '../http/body';
import { conflict } from '../http/problem';
import { route, type Route } from '../http/route';
import type { Delivery } from './delivery';
import { addMails, dropMail, listMails } from './queue';

/** Links that are sent by mail. @param delivery `null` where the school has no mail server */
export function mailRoutes(delivery: Pick<Delivery, 'wake'> | null): Route[] {
  const told = async (db: Knex, teacher: TeacherRow, lesson: LessonRow): Promise<Mails> => ({
    isSetUp: delivery !== null,
    mails: await listMails(db, teacher.id, lesson),
  });
  return [
    route({
      method: 'get',
      path: '/lessons/:lesson/mails',
      right: 'the lesson’s teacher',
      handle: ({ teacher, lesson, db }) => told(db, teacher, lesson),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/links/:token/mails',
      right: 'the lesson’s link, for its teacher',
      body: json(newMails),
      handle: async ({ teacher, lesson, link, body, request, db, afterwards }) => {
        if (!delivery) throw conflict('no-mail', 'This school has no mail server. Whoever runs it can set one up.');
        await addMails(db, teacher.id, link, body, `${request.protocol}://${request.get('host')}`);
        afterwards(() => void delivery.wake());
        return told(db, teacher, lesson);
      },
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/mails/:mail',
      right: 'the lesson’s teacher',
      handle: async ({ teacher, lesson, request, db }) => {
        await dropMail(db, teacher.id, lesson, String(request.params.mail));
        return told(db, teacher, lesson);
      },
    }),
  ];
}
