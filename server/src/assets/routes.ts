import { newFile, UPLOAD_PART_BYTES } from '@kite-trail/core/contract/upload';
import { bytes, json } from '../http/body';
import { assetOf, countOf } from '../http/named';
import { route, type Route } from '../http/route';
import { sendAsset } from './assets';
import { addFile, keepSheetPicture, sheetPicture } from './lesson-files';
import { arrivedParts, dropUpload, hasFile, keepUploadPart, takeFile } from './uploads';

const LARGEST_SHEET_BYTES = 24 * 2 ** 20;

export function assetRoutes(): Route[] {
  return [
    route({
      method: 'get',
      path: '/uploads/:asset',
      right: 'a writer',
      handle: async ({ writer, request, db }) => {
        const asset = assetOf(request);
        return { parts: await arrivedParts(db, writer.teacher.id, asset), isHad: await hasFile(db, writer, asset) };
      },
    }),
    route({
      method: 'put',
      path: '/uploads/:asset/parts/:n',
      right: 'a writer',
      body: bytes(UPLOAD_PART_BYTES),
      handle: ({ writer, request, body, db }) =>
        keepUploadPart(db, writer.teacher.id, assetOf(request), countOf(request.params.n, 'part'), body),
    }),
    route({
      method: 'delete',
      path: '/uploads/:asset',
      right: 'a writer',
      handle: ({ writer, request, db }) => dropUpload(db, writer.teacher.id, assetOf(request)),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/assets',
      right: 'the lesson’s writer',
      body: json(newFile),
      prepare: ({ writer, body: { asset }, work }) =>
        work.do('checkUpload', writer.teacher.id, { teacher: writer.teacher.id, asset }),
      handle: async ({ writer, lesson, body: { asset, name }, prepared, db }) => {
        await takeFile(db, writer, asset, prepared);
        await addFile(db, lesson.id, name, asset);
      },
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/assets/:asset',
      right: 'the lesson’s file, for its writer',
      handle: ({ asset, request, response, db }) => sendAsset(db, asset, request, response),
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/assets/:asset/pages/:n',
      right: 'the lesson’s file, for its writer',
      body: bytes(LARGEST_SHEET_BYTES),
      prepare: ({ lesson, body, work }) => work.do('nameBytes', lesson.teacher_id, { bytes: body }, body.length),
      handle: ({ lesson, asset, request, body, prepared: id, db }) => {
        const page = countOf(request.params.n, 'page');
        return keepSheetPicture(db, lesson.teacher_id, asset, page, { id, bytes: body });
      },
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/assets/:asset/pages/:n',
      right: 'the lesson’s file, for its writer',
      handle: async ({ lesson, asset, request, response, db }) => {
        const picture = await sheetPicture(db, lesson.teacher_id, asset, countOf(request.params.n, 'page'));
        await sendAsset(db, picture, request, response);
      },
    }),
  ];
}
