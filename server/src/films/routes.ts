import { wantedFilmPart } from '@kite-trail/core/contract/film';
import type { FilmCodec } from '@kite-trail/core/film/settings';
import { json } from '../http/body';
import { conflict } from '../http/problem';
import { route, type Route } from '../http/route';
import { codecsOf } from './encoder';

const MEGABYTE = 2 ** 20;

/**
 * Films for browsers without encoders: the browser makes the sound and joins the parts; their pictures are painted and encoded here.
 * @param ffmpeg the program that encodes
 */
export function filmRoutes(ffmpeg: string): Route[] {
  let codecs: Promise<FilmCodec[]> | null = null;
  const known = () => (codecs ??= codecsOf(ffmpeg));
  return [
    route({ method: 'get', path: '/films/codecs', right: 'a teacher', handle: () => known() }),
    route({
      method: 'post',
      path: '/lessons/:lesson/film-parts',
      right: 'the lesson’s teacher',
      body: json(wantedFilmPart, MEGABYTE),
      // Nothing is changed here.
      isElsewhere: true,
      handle: async ({ teacher, lesson, body: wanted, work, response }) => {
        if (!(await known()).includes(wanted.settings.codec)) {
          throw conflict('no-encoder', 'The school’s server cannot make such videos.');
        }
        const asked = { lesson: lesson.id, teacher: teacher.id, ffmpeg, wanted };
        const bytes = await work.do('makeFilmPart', teacher.id, asked);
        response.type('video/mp4').send(Buffer.from(bytes));
      },
    }),
  ];
}
