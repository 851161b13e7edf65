import { filmCodecs, type WantedFilmPart } from '@kite-trail/core/contract/film';
import type { FilmCodec } from '@kite-trail/core/film/settings';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { call } from './call';
import { upload } from './upload';

/** Films that the school's server encodes. Every call throws `Refused` or `Unreachable`. */
export const filmApi = {
  codecs: async (): Promise<FilmCodec[]> => filmCodecs.parse(await (await call('GET', '/films/codecs')).json()),
  /** @param payload what the film shows: it is sent where it is not there yet */
  part: async (lesson: LessonId, payload: Blob, wanted: WantedFilmPart): Promise<Uint8Array<ArrayBuffer>> => {
    const made = await upload(wanted.payload, payload, () => call('POST', `/lessons/${lesson}/film-parts`, wanted));
    return new Uint8Array(await made.arrayBuffer());
  },
  /** Lets go of what films showed. */
  forget: (payload: string) => call('DELETE', `/uploads/${payload}`),
};
