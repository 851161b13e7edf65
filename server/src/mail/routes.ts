import { newMails, type Mails } from '@kite-trail/core/contract/mail';
import type { Knex } from 'knex';
import type { LessonRow } from '../database/rows';
import { json } from '../http/body';
import { conflict } from '../http/problem';
import { route, type Route } from '../http/route';
import type { Delivery } from './delivery';
import { addMails, dropMail, listMails } from './queue';

/** Links that are sent by mail. @param delivery `null` where the school has no mail server */
export function mailRoutes(delivery: Pick<Delivery, 'wake'> | null): Route[] {
  const told = async (db: Knex, lesson: LessonRow): Promise<Mails> => ({
    isSetUp: delivery !== null,
    mails: await listMails(db, lesson),
  });
  return [
    route({
      method: 'get',
      path: '/lessons/:lesson/mails',
      right: 'the lesson’s teacher',
      handle: ({ lesson, db }) => told(db, lesson),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/links/:token/mails',
      right: 'the lesson’s link, for its teacher',
      body: json(newMails),
      handle: async ({ lesson, link, body, request, db, afterwards }) => {
        if (!delivery) throw conflict('no-mail', 'This school has no mail server. Whoever runs it can set one up.');
        await addMails(db, lesson, link, body, `${request.protocol}://${request.get('host')}`);
        afterwards(() => void delivery.wake());
        return told(db, lesson);
      },
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/mails/:mail',
      right: 'the lesson’s teacher',
      handle: async ({ lesson, request, db }) => {
        await dropMail(db, lesson, String(request.params.mail));
        return told(db, lesson);
      },
    }),
  ];
}
