import { Camera, NOT_GATHERED, type FilmSurface, type GatheredImages } from '@kite-trail/core/film/camera';
import { filmed } from '@kite-trail/core/film/filmed';
import { drawnCaption, filmParts, shotsOf, type FilmPart } from '@kite-trail/core/film/frames';
import { pictureSize, TITLE_SECONDS, type FilmSettings, type PixelSize } from '@kite-trail/core/film/settings';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { findAll } from '@kite-trail/core/paint/picture';
import type { Cue } from '@kite-trail/core/trail/captions';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { expose } from 'comlink';
import { Mp4OutputFormat, Output } from 'mediabunny';
import { ImageStore } from '../../pictures/image-store';
import { LessonFileLoader } from '../../pictures/lesson-file-loader';
import { Gate } from '../gate';
import type { PrivatePath } from '../private-files';
import { PrivateWriter } from '../private-writer';
import { FrameEncoder } from './frame-encoder';
import { loadLetters } from './lettering';

/** All that a film's pictures are made from. */
export interface FilmPictures {
  /** Whose pictures and PDFs are shown. */
  lesson: LessonId;
  title: string;
  /** A payload (`core/formats/payload`). */
  payload: Uint8Array;
  settings: FilmSettings;
  cues: readonly Cue[];
}

interface Film extends Omit<FilmPictures, 'payload'> {
  timeline: Timeline;
  images: GatheredImages;
}

const COVER: PixelSize = { widthPx: 640, heightPx: 360 };
const REPORT_EVERY_MS = 250;

let film: Film;
const gate = new Gate();

/** Paints and encodes a film part by part, each into a file that begins at 0 s. */
const filmPart = {
  async begin({ payload, ...pictures }: FilmPictures): Promise<void> {
    const timeline = timelineOf(filmed(decodePayload(payload), pictures.settings));
    const isLettered = pictures.settings.captions === 'drawn' || pictures.settings.hasTitleCard;
    if (isLettered) await loadLetters([pictures.title, ...pictures.cues.map(({ text }) => text)]);
    film = { ...pictures, timeline, images: gathered(new ImageStore(new LessonFileLoader(pictures.lesson).load)) };
  },

  hold(isHeld: boolean): void {
    gate.hold(isHeld);
  },

  /** @param framesAPart how many frames a part has at most */
  plan(framesAPart: number): FilmPart[] {
    const drawn = drawnCues().map(({ startSamples, endSamples }) => ({
      fromSamples: startSamples,
      toSamples: endSamples,
    }));
    return filmParts(film.timeline, film.settings.framesPerSecond, drawn, framesAPart);
  },

  /** @param onFrames hears, now and then, how many of the part's frames are done */
  make(part: FilmPart, path: PrivatePath, onFrames: (count: number) => void): Promise<void> {
    return intoFile(path, async (encoder, camera) => {
      const firstSeconds = part.frames[0] / film.settings.framesPerSecond;
      let reportedMs = performance.now();
      for (const { moment, framesDone, fromSeconds, toSeconds } of shotsOf(part, film.timeline, film.settings)) {
        if (gate.isHeld) await gate.passed();
        await camera.take(moment, drawnCaption(drawnCues(), fromSeconds));
        await encoder.add(camera.picture, fromSeconds - firstSeconds, toSeconds - firstSeconds);
        if (performance.now() - reportedMs > REPORT_EVERY_MS) {
          reportedMs = performance.now();
          onFrames(framesDone);
        }
      }
    });
  },

  makeTitle(path: PrivatePath): Promise<void> {
    return intoFile(path, async (encoder, camera) => {
      camera.takeTitle(film.title);
      await encoder.add(camera.picture, 0, TITLE_SECONDS);
    });
  },

  /** Keeps a part that was made elsewhere. */
  async keep(path: PrivatePath, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    const file = await PrivateWriter.open(path);
    try {
      file.write(bytes, 0);
    } catch (error) {
      file.close();
      throw error;
    }
    await file.finish();
  },

  /** The page as it ends: a picture by which files are known. */
  async cover(): Promise<Uint8Array<ArrayBuffer>> {
    const canvas = new OffscreenCanvas(COVER.widthPx, COVER.heightPx);
    const moment = film.timeline.at(film.timeline.lengthSamples);
    const camera = new Camera(surfaceOf(canvas), COVER, { ...film.settings, captions: 'none' }, film.images);
    await camera.take(moment, '');
    const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
    return new Uint8Array(await blob.arrayBuffer());
  },
};
export type FilmPartWorker = typeof filmPart;

async function intoFile(
  path: PrivatePath,
  fill: (encoder: FrameEncoder, camera: Camera) => Promise<void>,
): Promise<void> {
  const file = await PrivateWriter.open(path);
  const encoder = new FrameEncoder(film.settings);
  try {
    const output = new Output({ format: new Mp4OutputFormat({ fastStart: false }), target: file.target() });
    output.addVideoTrack(encoder.source);
    await output.start();
    const size = pictureSize(film.settings);
    const canvas = new OffscreenCanvas(size.widthPx, size.heightPx);
    await fill(encoder, new Camera(surfaceOf(canvas), size, film.settings, film.images));
    await encoder.finish();
    await output.finalize();
  } catch (error) {
    encoder.abandon();
    file.close();
    throw error;
  }
  await file.finish();
}

const surfaceOf = (canvas: OffscreenCanvas): FilmSurface =>
  canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;

const drawnCues = (): readonly Cue[] => (film.settings.captions === 'drawn' ? film.cues : []);

/** Pictures that are loaded, and waited for. */
const gathered = (store: ImageStore): GatheredImages => ({
  find: (...picture) => store.find(...picture),
  gather: async (state, pxPerPt) => {
    if (findAll(state, store, pxPerPt)) return;
    await store.settled();
    if (!findAll(state, store, pxPerPt)) throw new Error(NOT_GATHERED);
  },
});

expose(filmPart);
