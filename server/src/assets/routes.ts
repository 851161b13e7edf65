import { badInput } from '../http/problem';
import { route, type Route } from '../http/route';
import { sendAsset } from './assets';
import { addFile, fileName, keepSheetPicture, sheetPicture } from './lesson-files';

const bytesOf = (body: unknown): Buffer => {
  if (!Buffer.isBuffer(body)) throw badInput('A file is sent as application/octet-stream.');
  return body;
};

export function assetRoutes(): Route[] {
  return [
    route({
      method: 'post',
      path: '/lessons/:lesson/assets',
      right: 'the lesson’s teacher',
      handle: async ({ lesson, request, db }) => {
        const name = fileName(request.get('x-file-name'));
        return { asset: await addFile(db, lesson.id, name, bytesOf(request.body)) };
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
      handle: ({ lesson, asset, request, db }) =>
        keepSheetPicture(db, lesson.teacher_id, asset, Number(request.params.n), bytesOf(request.body)),
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/assets/:asset/pages/:n',
      right: 'the lesson’s file, for its teacher',
      handle: async ({ lesson, asset, request, response, db }) => {
        const picture = await sheetPicture(db, lesson.teacher_id, asset, Number(request.params.n));
        await sendAsset(db, picture, request, response);
      },
    }),
  ];
}
