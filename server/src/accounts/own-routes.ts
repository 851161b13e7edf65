import {
  changeAccount as changeBody,
  changePassword as passwordBody,
  deleteAccount as deleteBody,
} from '@kite-trail/core/contract/account';
import type { Request } from 'express';
import { json } from '../http/body';
import { noted } from '../http/log';
import { route, type Route } from '../http/route';
import { endSession, hashOf, startSession } from '../http/sessions';
import type { SchoolAccounts } from '../school-accounts/provider';
import { changeAccount, changePassword, deleteAccount, describeSession } from './accounts';
import { sendOwnData } from './own-data';
import { endSignIn, endSignIns, listSignIns } from './sign-ins';

/** What teachers do with their own accounts. */
export const ownRoutes = (accounts: SchoolAccounts | null): Route[] => [
  route({
    method: 'get',
    path: '/account/sign-ins',
    right: 'a teacher',
    handle: ({ teacher, request, db }) => listSignIns(db, teacher, hereOf(request)),
  }),
  route({
    method: 'delete',
    path: '/account/sign-ins',
    right: 'a teacher',
    handle: async ({ teacher, request, db }) => {
      await endSignIns(db, teacher, hereOf(request));
      request.noteSecurity('signed out elsewhere', { teacher: teacher.id });
    },
  }),
  route({
    method: 'delete',
    path: '/account/sign-ins/:id',
    right: 'a teacher',
    handle: async ({ teacher, request, db }) => {
      await endSignIn(db, teacher, request.params.id);
      request.noteSecurity('signed out elsewhere', { teacher: teacher.id });
    },
  }),
  route({
    method: 'put',
    path: '/account',
    right: 'a teacher',
    body: json(changeBody),
    isSecret: true,
    handle: async ({ teacher, body, request, db }) => {
      await changeAccount(db, teacher, body).catch(noted(request, 'account change refused', { teacher: teacher.id }));
      request.noteSecurity('account changed', { teacher: teacher.id });
      return describeSession(db, { teacherId: teacher.id }, accounts?.name ?? null);
    },
  }),
  route({
    method: 'put',
    path: '/account/password',
    right: 'a teacher',
    body: json(passwordBody),
    isSecret: true,
    handle: async ({ teacher, body, request, db, afterwards }) => {
      await changePassword(db, teacher, body).catch(noted(request, 'account change refused', { teacher: teacher.id }));
      // Whoever knew the old one is out.
      await endSignIns(db, teacher);
      request.noteSecurity('password changed', { teacher: teacher.id });
      afterwards(() => startSession(request, { teacherId: teacher.id }));
    },
  }),
  route({
    method: 'get',
    path: '/account/data',
    right: 'a teacher',
    handle: async ({ teacher, request, response, db, work }) => {
      request.noteSecurity('own data taken out', { teacher: teacher.id });
      await sendOwnData({ db, work, request, response }, teacher);
    },
  }),
  route({
    method: 'post',
    path: '/account/deletion',
    right: 'a teacher',
    body: json(deleteBody),
    isSecret: true,
    handle: async ({ teacher, body, request, db, afterwards }) => {
      const refused = noted(request, 'account change refused', { teacher: teacher.id });
      await deleteAccount(db, teacher, body.password).catch(refused);
      request.noteSecurity('account deleted', { teacher: teacher.id });
      afterwards(() => endSession(request));
    },
  }),
];

/** Which sign-in asks. */
const hereOf = (request: Request): string => hashOf(request.sessionID);
