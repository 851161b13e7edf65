import { asking } from '@kite-trail/core/contract/search';
import { checked } from '../http/body';
import { route, type Route } from '../http/route';
import { search } from './search';

export function searchRoutes(): Route[] {
  return [
    route({
      method: 'get',
      path: '/search',
      right: 'a teacher',
      handle: ({ teacher, request, db, work }) =>
        search(db, work, teacher.id, checked(asking, request.query.for ?? '')),
    }),
  ];
}
