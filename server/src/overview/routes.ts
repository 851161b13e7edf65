import { route, type Route } from '../http/route';

/** How much more there is room for where the school is kept, in bytes; `null` where that is not known. */
export type FreeBytes = () => Promise<number | null>;

/** What a teacher sees across all lessons. */
export function overviewRoutes(freeBytes: FreeBytes): Route[] {
  return [
    route({
      method: 'get',
      path: '/recordings',
      right: 'a teacher',
      handle: ({ teacher, work }) => work.do('listRecordings', teacher.id, { teacher: teacher.id }),
    }),
    route({
      method: 'get',
      path: '/space',
      right: 'a teacher',
      handle: async ({ teacher, work }) => {
        const measured = await work.do('measureSpace', teacher.id, { teacher: teacher.id });
        return { ...measured, freeBytes: await freeBytes() };
      },
    }),
  ];
}
