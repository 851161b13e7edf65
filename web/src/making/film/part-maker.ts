import type { WantedFilmPart } from '@kite-trail/core/contract/film';
import { FRAMES_A_PART, framesAtSchool, type FilmPart } from '@kite-trail/core/film/frames';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { proxy, type Remote } from 'comlink';
import { Refused } from '../../server/call';
import { filmApi } from '../../server/films';
import { persistently } from '../../server/persistently';
import { assetIdOf } from '../../server/upload';
import type { FilmPartWorker } from '../../workers/film/film-part.worker';
import type { PrivatePath } from '../../workers/private-files';
import type { Encoder } from './can-encode';
import type { FilmOrder } from './film-order';

type Painter = Remote<FilmPartWorker>;

/** How parts of a film come into being, each in a file of this device. */
export interface PartMaker {
  /** Parts of one maker cannot be joined to another's. */
  name: string;
  /** How many parts are made at once, at most. */
  most: number;
  framesAPart: number;
  part(painter: Painter, part: FilmPart, path: PrivatePath, onFrames: (count: number) => void): Promise<void>;
  title(painter: Painter, path: PrivatePath): Promise<void>;
  /** All parts are there. */
  end(): void;
}

/** More encoders would wait for one another, and take more memory. */
const MOST_PAINTERS = 4;

/** This browser paints and encodes. */
const browserMaker: PartMaker = {
  name: 'part',
  most: MOST_PAINTERS,
  framesAPart: FRAMES_A_PART,
  part: (painter, part, path, onFrames) => painter.make(part, path, proxy(onFrames)),
  title: (painter, path) => painter.makeTitle(path),
  end: () => {},
};

/** What fails as often will fail again: that is told. */
const MOST_REFUSALS = 3;

/** The school's server paints and encodes; while it cannot be reached, the film waits. */
async function schoolMaker(order: FilmOrder, signal: AbortSignal): Promise<PartMaker> {
  const { lesson, settings, title, cues } = order;
  const payload = new Blob([order.payload]);
  const asset = await assetIdOf(payload);
  function made(shows: WantedFilmPart['shows']) {
    let refusals = 0;
    const ask = () =>
      filmApi.part(lesson, payload, { payload: asset, settings, shows }).catch((error: unknown) => {
        if (error instanceof Refused) refusals++;
        throw error;
      });
    return persistently(
      ask,
      () => {},
      () => !signal.aborted && refusals < MOST_REFUSALS,
    );
  }
  const drawn = settings.captions === 'drawn' ? cues : [];
  const rate = settings.framesPerSecond;
  return {
    name: 'school',
    most: 1,
    framesAPart: framesAtSchool(settings),
    async part(painter, { frames, untilSeconds }, path) {
      const [from, to] = [frames[0] / rate, untilSeconds].map((seconds) => seconds * CLOCK_HZ);
      const shown = drawn.filter(({ startSamples, endSamples }) => startSamples <= to && endSamples >= from);
      const bytes = await made({ kind: 'frames', frames: [...frames], untilSeconds, cues: shown });
      await painter.keep(path, bytes);
    },
    title: async (painter, path) => painter.keep(path, await made({ kind: 'title', title })),
    // What is not let go of is given up after a day.
    end: () => void filmApi.forget(asset).catch(() => {}),
  };
}

export const partMakerOf = (encoder: Encoder, order: FilmOrder, signal: AbortSignal): PartMaker | Promise<PartMaker> =>
  encoder === 'browser' ? browserMaker : schoolMaker(order, signal);
