import { newFile, UPLOAD_PART_BYTES } from '@kite-trail/core/contract/upload';
import { bytes, json } from '../http/body';
import { assetOf, countOf } from '../http/rights';
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
      right: 'a teacher',
      handle: async ({ teacher, request, db }) => {
        const asset = assetOf(request);
        return { parts: await arrivedParts(db, teacher.id, asset), isHad: await hasFile(db, teacher.id, asset) };
      },
    }),
    route({
      method: 'put',
      path: '/uploads/:asset/parts/:n',
      right: 'a teacher',
      body: bytes(UPLOAD_PART_BYTES),
      handle: ({ teacher, request, body, db }) =>
        keepUploadPart(db, teacher.id, assetOf(request), countOf(request.params.n, 'part'), body),
    }),
    route({
      method: 'delete',
      path: '/uploads/:asset',
      right: 'a teacher',
      handle: ({ teacher, request, db }) => dropUpload(db, teacher.id, assetOf(request)),
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/assets',
      right: 'the lesson’s teacher',
      body: json(newFile),
      prepare: ({ teacher, body: { asset }, work }) =>
        work.do('checkUpload', teacher.id, { teacher: teacher.id, asset }),
      handle: async ({ teacher, lesson, body: { asset, name }, prepared, db }) => {
        await takeFile(db, teacher.id, asset, prepared);
        await addFile(db, lesson.id, name, asset);
      },
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/assets/:asset',
      right: 'the lesson’s file, for its teacher',
      handle: ({ asset, request, response, db }) => sendAsset(db, asset, request, response),
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/assets/:asset/pages/:n',
      right: 'the lesson’s file, for its teacher',
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
      right: 'the lesson’s file, for its teacher',
      handle: async ({ lesson, asset, request, response, db }) => {
        const picture = await sheetPicture(db, lesson.teacher_id, asset, countOf(request.params.n, 'page'));
        await sendAsset(db, picture, request, response);
      },
    }),
  ];
}
