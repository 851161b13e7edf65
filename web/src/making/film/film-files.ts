import { containerOf } from '@kite-trail/core/film/settings';
import { privateNames, removePrivate, wholePrivateFile, type PrivatePath } from '../../workers/private-files';
import type { MakingId } from '../makings';
import type { FilmOrder } from './film-order';

const FOLDER = 'films';

/** A file of a film, on this device. */
export const filmFile = (id: MakingId, name: string): PrivatePath => [FOLDER, id, name];

/** Where the whole film is put. */
export const filmPath = ({ id, settings }: Pick<FilmOrder, 'id' | 'settings'>): PrivatePath =>
  filmFile(id, `film.${containerOf(settings.codec)}`);

/** A film that was made, and is kept on this device. */
export const madeFilm = (order: FilmOrder): Promise<File | null> => wholePrivateFile(filmPath(order));

/** Removes what is kept of a film on this device. */
export const discardFilm = (id: MakingId): Promise<void> => removePrivate([FOLDER, id]);

/** The films of which something is kept on this device. */
export const keptFilms = async (): Promise<MakingId[]> => (await privateNames([FOLDER])) as MakingId[];
