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
      handle: ({ asset, request, db }) => keepSheetPicture(db, asset, Number(request.params.n), bytesOf(request.body)),
    }),
    ...(
      [
        ['/lessons/:lesson/assets/:asset/pages/:n', 'the lesson’s file, for its teacher'],
        ['/watch/:token/assets/:asset/pages/:n', 'the link’s file, for its holder'],
      ] as const
    ).map(([path, right]) =>
      route({
        method: 'get',
        path,
        right,
        handle: async ({ asset, request, response, db }) =>
          sendAsset(db, await sheetPicture(db, asset, Number(request.params.n)), request, response),
      }),
    ),
    route({
      method: 'get',
      path: '/watch/:token/assets/:asset',
      right: 'the link’s file, for its holder',
      handle: ({ asset, request, response, db }) => sendAsset(db, asset, request, response),
    }),
  ];
}
