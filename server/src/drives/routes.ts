import { pipeline } from 'node:stream/promises';
import {
  DRIVE_PART_BYTES,
  driveAccount,
  drivePath,
  newSending,
  sendingId,
  type begunSending,
  type Drive,
  type DriveFolder,
  type sentToDrive,
} from '@kite-trail/core/contract/drive';
import type { Request } from 'express';
import type { z } from 'zod';
import { bytes, checked, json, parsedJson } from '../http/body';
import { badInput, notFound } from '../http/problem';
import { countOf } from '../http/named';
import { route, type Route } from '../http/route';
import { driveOf, dropAccount, keepAccount, listDrives, openDrive } from './accounts';
import type { SchoolDrives } from './school-drives';
import { Sendings } from './sendings';
import { SharedDrive } from './shared-drive';

/**
 * Shared drives: what a teacher makes is put there by the server, which alone knows their passwords. No drive is waited for within a
 * transaction.
 */
export function driveRoutes(drives: SchoolDrives | null): Route[] {
  const sendings = new Sendings();
  const list = route({
    method: 'get',
    path: '/drives',
    right: 'a teacher',
    handle: async ({ teacher, db }): Promise<Drive[]> => (drives ? listDrives(db, drives, teacher.id) : []),
  });
  if (!drives) return [list];
  return [
    list,
    route({
      method: 'put',
      path: '/drives/:drive/account',
      right: 'a teacher',
      body: json(driveAccount),
      isSecret: true,
      prepare: async ({ body, request }) => {
        const drive = driveOf(drives, request.params.drive);
        await new SharedDrive(drive.address, body).list([]);
        return drive;
      },
      handle: async ({ teacher, body, prepared, db }): Promise<Drive[]> => {
        await keepAccount(db, drives, teacher.id, prepared, body);
        return listDrives(db, drives, teacher.id);
      },
    }),
    route({
      method: 'delete',
      path: '/drives/:drive/account',
      right: 'the drive’s account, for its teacher',
      handle: async ({ teacher, account, db }): Promise<Drive[]> => {
        await dropAccount(db, account);
        return listDrives(db, drives, teacher.id);
      },
    }),
    route({
      method: 'get',
      path: '/drives/:drive/folder',
      right: 'the drive’s account, for its teacher',
      handle: ({ account, request }): Promise<DriveFolder> => openDrive(drives, account).list(pathIn(request)),
    }),
    route({
      method: 'get',
      path: '/drives/:drive/file',
      right: 'the drive’s account, for its teacher',
      handle: async ({ account, request, response }) => {
        const path = pathIn(request);
        if (path.length === 0) throw badInput('Choose a file first.');
        const gone = new AbortController();
        response.on('close', () => gone.abort());
        const { sizeBytes, body } = await openDrive(drives, account).read(path, gone.signal);
        // Whatever it is, no browser opens it as a page of this school's.
        response.attachment(path.at(-1)).type('application/octet-stream');
        if (sizeBytes !== null) response.set('Content-Length', String(sizeBytes));
        await pipeline(body, response);
      },
    }),
    route({
      method: 'post',
      path: '/drives/:drive/sendings',
      right: 'the drive’s account, for its teacher',
      body: json(newSending),
      isElsewhere: true,
      handle: async ({ teacher, account, body }): Promise<z.output<typeof begunSending>> => {
        const { path, name, sizeBytes } = body;
        const begin = () => openDrive(drives, account).write(path, name, sizeBytes);
        return { id: await sendings.begin(teacher.id, sizeBytes, begin) };
      },
    }),
    route({
      method: 'put',
      path: '/drives/:drive/sendings/:sending/parts/:n',
      right: 'the drive’s account, for its teacher',
      body: bytes(DRIVE_PART_BYTES),
      isElsewhere: true,
      handle: ({ teacher, body, request }) =>
        sendings.pass(teacher.id, sendingIn(request), countOf(request.params.n, 'part'), body),
    }),
    route({
      method: 'post',
      path: '/drives/:drive/sendings/:sending/end',
      right: 'the drive’s account, for its teacher',
      isElsewhere: true,
      handle: async ({ teacher, request }): Promise<z.output<typeof sentToDrive>> => ({
        name: await sendings.end(teacher.id, sendingIn(request)),
      }),
    }),
    route({
      method: 'delete',
      path: '/drives/:drive/sendings/:sending',
      right: 'the drive’s account, for its teacher',
      isElsewhere: true,
      handle: ({ teacher, request }) => sendings.drop(teacher.id, sendingIn(request)),
    }),
  ];
}

/** Folders, and files, are named as JSON: their names may hold anything but what stands between folders. */
const pathIn = ({ query }: Request): string[] =>
  checked(drivePath, parsedJson(Buffer.from(String(query.path ?? '[]'))));

function sendingIn({ params }: Request): string {
  const id = sendingId.safeParse(params.sending);
  if (!id.success) throw notFound('file');
  return id.data;
}
