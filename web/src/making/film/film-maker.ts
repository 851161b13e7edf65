import { type FilmPart } from '@kite-trail/core/film/frames';
import { containerOf, soundCodecOf } from '@kite-trail/core/film/settings';
import { samplesToMs } from '@kite-trail/core/trail/clock';
import { proxy, wrap, type Remote } from 'comlink';
import { soundFileOf, type ServedSound } from '../../playback/served-sound';
import type { FilmJoinWorker } from '../../workers/film/film-join.worker';
import JoinWorker from '../../workers/film/film-join.worker?worker';
import type { FilmPartWorker } from '../../workers/film/film-part.worker';
import PartWorker from '../../workers/film/film-part.worker?worker';
import { privateFile, removePrivate, wholePrivateFile, type PrivatePath } from '../../workers/private-files';
import type { Told } from '../../workers/told';
import type { MakingId } from '../makings';
import type { FilmOrder } from './film-order';

export const FILMS_FOLDER = 'films';
/** More encoders would wait for one another, and take more memory. */
const MOST_PAINTERS = 4;
/** How the time a film takes is divided, about. */
const SHARES = { pictures: 0.7, sound: 0.25, joining: 0.05 };
const MS = 1000;

/** Whether this browser can make films at all. */
export const canMakeFilms = (): boolean =>
  typeof VideoEncoder !== 'undefined' && navigator.storage !== undefined && 'getDirectory' in navigator.storage;

const pathOf = (id: MakingId, name: string): PrivatePath => [FILMS_FOLDER, id, name];
const filmPath = ({ id, settings }: Pick<FilmOrder, 'id' | 'settings'>): PrivatePath =>
  pathOf(id, `film.${containerOf(settings.codec)}`);

/** A film that was made, and is kept on this device. */
export const madeFilm = (order: FilmOrder): Promise<File | null> => wholePrivateFile(filmPath(order));

/** Removes what is kept of a film on this device. */
export const discardFilm = (id: MakingId): Promise<void> => removePrivate([FILMS_FOLDER, id]);

/** A worker that paints and encodes. */
interface Painter {
  worker: Worker;
  remote: Remote<FilmPartWorker>;
}

/**
 * Makes a film: its pictures in parts, by several workers, and its sound beside them; then joins them. Parts that are there from an
 * earlier try are not made again.
 * @param sound its sound, or `null` where nobody speaks
 * @throws DOMException `AbortError` when it is given up
 */
export async function makeFilm(order: FilmOrder, sound: ServedSound | null, told: Required<Told>): Promise<File> {
  const abort = new AbortController();
  told.signal.addEventListener('abort', () => abort.abort(told.signal.reason), { once: true });
  told.signal.throwIfAborted();
  const painters: Painter[] = [];
  const done = { pictures: 0, sound: sound ? 0 : 1, joining: 0 };
  const tell = (what: keyof typeof done, share: number) => {
    done[what] = share;
    told.onDone(done.pictures * SHARES.pictures + done.sound * SHARES.sound + done.joining * SHARES.joining);
  };
  const codec = soundCodecOf(order.settings.codec);
  try {
    const [pictures, voice] = await Promise.all([
      paint(order, painters, abort.signal, told, (share) => tell('pictures', share)),
      sound &&
        soundFileOf(sound, codec, { ...told, signal: abort.signal, onDone: (share) => tell('sound', share) }).then(
          (file) => (tell('sound', 1), file),
        ),
    ]);
    await told.gate.passed();
    return await join(order, pictures, voice, abort.signal, (share) => tell('joining', share));
  } catch (error) {
    // What one of them still does is of no use any more.
    if (!abort.signal.aborted) abort.abort(error);
    throw error;
  } finally {
    painters.forEach(({ worker }) => worker.terminate());
  }
}

interface Painted {
  parts: { path: PrivatePath; startSeconds: number; endSeconds: number }[];
  /** How long the title is shown before the lesson begins. */
  titleSeconds: number;
  cover: Uint8Array<ArrayBuffer>;
}

async function paint(
  order: FilmOrder,
  painters: Painter[],
  signal: AbortSignal,
  { gate }: Required<Told>,
  onDone: (share: number) => void,
): Promise<Painted> {
  const { id, settings } = order;
  const given = whenAborted(signal);
  const first = await begun(order, painters, given);
  const plan = await Promise.race([first.remote.plan(), given.promise]);
  const frames = plan.reduce((sum, part) => sum + part.frames.length, 0);
  const doneOf = plan.map(() => 0);
  const tell = (n: number, count: number) => {
    doneOf[n] = count;
    onDone(doneOf.reduce((sum, one) => sum + one, 0) / frames);
  };
  const partPath = (n: number) => pathOf(id, `part-${n}.mp4`);
  const left = plan.map((part, n) => ({ part, n }));
  const titlePath = pathOf(id, 'title.mp4');
  const titleSeconds = settings.hasTitleCard
    ? await Promise.race([first.remote.makeTitle(titlePath), given.promise])
    : 0;

  async function work({ remote }: Painter): Promise<void> {
    const free = gate.onHold((isHeld) => void remote.hold(isHeld));
    for (let next = left.shift(); next; next = left.shift()) {
      const { part, n } = next;
      if (!(await wholePrivateFile(partPath(n)))) await made(remote, part, n);
      tell(n, part.frames.length);
    }
    free();
  }
  const made = (remote: Remote<FilmPartWorker>, part: FilmPart, n: number) =>
    Promise.race([
      remote.make(
        part,
        partPath(n),
        proxy((count: number) => tell(n, count)),
      ),
      given.promise,
    ]);

  const count = Math.min(navigator.hardwareConcurrency || 1, MOST_PAINTERS, plan.length);
  const others = await Promise.all(Array.from({ length: count - 1 }, () => begun(order, painters, given)));
  await Promise.all([first, ...others].map(work));
  const cover = await Promise.race([first.remote.cover(), given.promise]);
  const parts = plan.map((part, n) => ({
    path: partPath(n),
    startSeconds: titleSeconds + part.frames[0] / settings.framesPerSecond,
    endSeconds: titleSeconds + part.untilSeconds,
  }));
  if (titleSeconds > 0) parts.unshift({ path: titlePath, startSeconds: 0, endSeconds: titleSeconds });
  return { parts, titleSeconds, cover };
}

interface Aborting {
  promise: Promise<never>;
  fail: (error: Error) => void;
}

function whenAborted(signal: AbortSignal): Aborting {
  let fail: (error: Error) => void = () => {};
  const promise = new Promise<never>((_, reject) => (fail = reject));
  promise.catch(() => {});
  signal.addEventListener('abort', () => fail(signal.reason as Error), { once: true });
  return { promise, fail };
}

async function begun(order: FilmOrder, painters: Painter[], aborting: Aborting): Promise<Painter> {
  const { lesson, title, payload, settings, cues } = order;
  const worker = new PartWorker();
  const painter = { worker, remote: wrap<FilmPartWorker>(worker) };
  painters.push(painter);
  worker.onerror = (event) => aborting.fail(new Error(event.message));
  await Promise.race([painter.remote.begin({ lesson, title, payload, settings, cues }), aborting.promise]);
  return painter;
}

async function join(
  order: FilmOrder,
  { parts, titleSeconds, cover }: Painted,
  voice: Blob | null,
  signal: AbortSignal,
  onDone: (share: number) => void,
): Promise<File> {
  const { settings, title, language } = order;
  const worker = new JoinWorker();
  const given = whenAborted(signal);
  worker.onerror = (event) => given.fail(new Error(event.message));
  const ms = titleSeconds * MS;
  const film = {
    settings,
    parts,
    sound: voice && { file: voice, startSeconds: titleSeconds },
    title,
    language,
    cover,
    chapters: order.chapters.map((one) => ({ ...one, startSeconds: one.startSeconds + titleSeconds })),
    cues: order.cues.map(({ startSamples, endSamples, text }) => ({
      startMs: samplesToMs(startSamples) + ms,
      endMs: samplesToMs(endSamples) + ms,
      text,
    })),
  };
  try {
    const path = filmPath(order);
    await Promise.race([wrap<FilmJoinWorker>(worker).join(film, path, proxy(onDone)), given.promise]);
    for (const part of parts) await removePrivate(part.path);
    return (await privateFile(path))!;
  } finally {
    worker.terminate();
  }
}
