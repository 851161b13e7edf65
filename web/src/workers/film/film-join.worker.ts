import { expose } from 'comlink';
import { privateFile, type PrivatePath } from '../private-files';
import { PrivateWriter } from '../private-writer';
import { joinFilm, type FilmPartFile, type FilmToJoin } from './join-film';

/** A film whose parts lie on this device. */
export interface KeptFilm extends Omit<FilmToJoin, 'parts'> {
  parts: readonly (Omit<FilmPartFile, 'file'> & { path: PrivatePath })[];
}

/** Joins films away from the page, into files of this device. */
const filmJoin = {
  /** @param onDone hears how much is done, from 0 to 1 */
  async join({ parts, ...film }: KeptFilm, path: PrivatePath, onDone: (done: number) => void): Promise<void> {
    const file = await PrivateWriter.open(path);
    try {
      const kept = await Promise.all(parts.map(async ({ path: at, ...when }) => ({ file: await part(at), ...when })));
      await joinFilm({ ...film, parts: kept }, file, onDone);
    } catch (error) {
      file.close();
      throw error;
    }
    await file.finish();
  },
};
export type FilmJoinWorker = typeof filmJoin;

async function part(path: PrivatePath): Promise<File> {
  const file = await privateFile(path);
  if (!file) throw new Error('A part of the film is no longer on this device. Make it anew.');
  return file;
}

expose(filmJoin);
