import type { FilmPart } from '@kite-trail/core/film/frames';
import { soundCodecOf, TITLE_SECONDS } from '@kite-trail/core/film/settings';
import { samplesToMs } from '@kite-trail/core/trail/clock';
import { proxy, type Remote } from 'comlink';
import { soundFileOf, type ServedSound } from '../../playback/served-sound';
import type { FilmJoinWorker } from '../../workers/film/film-join.worker';
import JoinWorker from '../../workers/film/film-join.worker?worker';
import type { FilmPartWorker } from '../../workers/film/film-part.worker';
import PartWorker from '../../workers/film/film-part.worker?worker';
import { privateFile, removePrivate, wholePrivateFile, type PrivatePath } from '../../workers/private-files';
import type { Told } from '../../workers/told';
import { withWorker } from '../../workers/with-worker';
import { encoderOf, NO_ENCODER } from './can-encode';
import { filmFile, filmPath } from './film-files';
import type { FilmOrder } from './film-order';
import { partMakerOf } from './part-maker';

/** How the time a film takes is divided, about. */
const SHARES = { pictures: 0.7, sound: 0.25, joining: 0.05 };
const MS = 1000;

/**
 * Makes a film: its pictures in parts, by several workers, and its sound beside them; then joins them. Parts that are there from an
 * earlier try are not made again.
 * @param sound its sound, or `null` where nobody speaks
 * @throws DOMException `AbortError` when it is given up
 */
export async function makeFilm(order: FilmOrder, sound: ServedSound | null, told: Required<Told>): Promise<File> {
  told.signal.throwIfAborted();
  const abort = new AbortController();
  const signal = AbortSignal.any([told.signal, abort.signal]);
  const done = { pictures: 0, sound: sound ? 0 : 1, joining: 0 };
  const tell = (what: keyof typeof done) => (share: number) => {
    done[what] = share;
    told.onDone(done.pictures * SHARES.pictures + done.sound * SHARES.sound + done.joining * SHARES.joining);
  };
  try {
    const [pictures, voice] = await Promise.all([
      paint(order, { ...told, signal, onDone: tell('pictures') }),
      sound && soundFileOf(sound, soundCodecOf(order.settings.codec), { ...told, signal, onDone: tell('sound') }),
    ]);
    tell('sound')(1);
    await told.gate.passed();
    return await join(order, pictures, voice, signal, tell('joining'));
  } finally {
    // Where one of them has failed, what the other still does is of no use any more.
    abort.abort(new DOMException('The film is done with.', 'AbortError'));
  }
}

interface Painted {
  parts: { path: PrivatePath; startSeconds: number; endSeconds: number }[];
  /** How long the title is shown before the lesson begins. */
  titleSeconds: number;
  cover: Uint8Array<ArrayBuffer>;
}

async function paint(order: FilmOrder, { signal, gate, onDone }: Required<Told>): Promise<Painted> {
  const { id, lesson, title, payload, settings, cues } = order;
  const encoder = await encoderOf(settings);
  if (!encoder) throw new Error(NO_ENCODER);
  const maker = await partMakerOf(encoder, order, signal);
  const partPath = (n: number) => filmFile(id, `${maker.name}-${n}.mp4`);
  const titlePath = filmFile(id, `${maker.name}-title.mp4`);

  /** Has a painter make parts until none is left. */
  async function work(
    painter: Remote<FilmPartWorker>,
    left: [number, FilmPart][],
    tell: (n: number, frames: number) => void,
  ) {
    for (let next = left.shift(); next; next = left.shift()) {
      const [n, part] = next;
      try {
        await gate.passed();
        const isThere = (await wholePrivateFile(partPath(n))) !== null;
        if (!isThere) await maker.part(painter, part, partPath(n), (frames) => tell(n, frames));
      } catch (error) {
        left.push(next);
        throw error;
      }
      tell(n, part.frames.length);
    }
  }

  const withPainter = <Result>(use: (painter: Remote<FilmPartWorker>) => Promise<Result>) =>
    withWorker<FilmPartWorker, Result>(
      new PartWorker(),
      async (painter) => {
        await painter.begin({ lesson, title, payload, settings, cues });
        return use(painter);
      },
      { signal, gate },
    );

  return withPainter(async (first) => {
    const plan = await first.plan(maker.framesAPart);
    const frames = plan.reduce((sum, part) => sum + part.frames.length, 0);
    const doneOf = plan.map(() => 0);
    const tell = (n: number, count: number) => {
      doneOf[n] = count;
      onDone(doneOf.reduce((sum, one) => sum + one, 0) / frames);
    };
    const left = [...plan.entries()];
    if (settings.hasTitleCard) await maker.title(first, titlePath);
    const titleSeconds = settings.hasTitleCard ? TITLE_SECONDS : 0;
    const others = Math.min(navigator.hardwareConcurrency || 1, maker.most, plan.length) - 1;
    const helped = Array.from({ length: others }, () => withPainter((painter) => work(painter, left, tell)));
    // Some devices have fewer encoders than painters: whoever gets none gives its part back. What is left when all have let
    // go of theirs is made by the first; what it cannot make either is told.
    await Promise.allSettled([work(first, left, tell), ...helped]);
    await work(first, left, tell);
    maker.end();
    const parts = plan.map((part, n) => ({
      path: partPath(n),
      startSeconds: titleSeconds + part.frames[0] / settings.framesPerSecond,
      endSeconds: titleSeconds + part.untilSeconds,
    }));
    if (titleSeconds > 0) parts.unshift({ path: titlePath, startSeconds: 0, endSeconds: titleSeconds });
    return { parts, titleSeconds, cover: await first.cover() };
  });
}

async function join(
  order: FilmOrder,
  { parts, titleSeconds, cover }: Painted,
  voice: Blob | null,
  signal: AbortSignal,
  onDone: (share: number) => void,
): Promise<File> {
  const { settings, title, language, chapters, cues } = order;
  const ms = titleSeconds * MS;
  const film = {
    settings,
    parts,
    sound: voice && { file: voice, startSeconds: titleSeconds },
    title,
    language,
    cover,
    chapters: chapters.map((one) => ({ ...one, startSeconds: one.startSeconds + titleSeconds })),
    cues: cues.map(({ startSamples, endSamples, text }) => ({
      startMs: samplesToMs(startSamples) + ms,
      endMs: samplesToMs(endSamples) + ms,
      text,
    })),
  };
  const path = filmPath(order);
  await withWorker<FilmJoinWorker, void>(new JoinWorker(), (joiner) => joiner.join(film, path, proxy(onDone)), {
    signal,
  });
  for (const part of parts) await removePrivate(part.path);
  return (await privateFile(path))!;
}
