import { filmed } from '@kite-trail/core/film/filmed';
import { filmParts, isHardlyMore, type FilmPart } from '@kite-trail/core/film/frames';
import { pictureSize, type FilmSettings, type PixelSize } from '@kite-trail/core/film/settings';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Cue } from '@kite-trail/core/trail/captions';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { Moment, Timeline } from '@kite-trail/core/trail/timeline';
import { expose } from 'comlink';
import { Mp4OutputFormat, Output } from 'mediabunny';
import { ImageStore } from '../../pictures/image-store';
import { LessonFileLoader } from '../../pictures/lesson-file-loader';
import { Gate } from '../gate';
import type { PrivatePath } from '../private-files';
import { PrivateWriter } from '../private-writer';
import { Camera } from './camera';
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
  images: ImageStore;
}

const TITLE_SECONDS = 3;
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
    film = { ...pictures, timeline, images: new ImageStore(new LessonFileLoader(pictures.lesson).load) };
  },

  hold(isHeld: boolean): void {
    gate.hold(isHeld);
  },

  plan(): FilmPart[] {
    const { framesPerSecond, captions } = film.settings;
    const cues = captions === 'drawn' ? film.cues : [];
    const drawn = cues.map(({ startSamples, endSamples }) => ({ fromSamples: startSamples, toSamples: endSamples }));
    return filmParts(film.timeline, framesPerSecond, drawn);
  },

  /** @param onFrames hears, now and then, how many of the part's frames are done */
  make({ frames, untilSeconds }: FilmPart, path: PrivatePath, onFrames: (count: number) => void): Promise<void> {
    return intoFile(path, async (encoder, camera) => {
      const { framesPerSecond } = film.settings;
      const [size, firstSeconds] = [pictureSize(film.settings), frames[0] / framesPerSecond];
      let before: Moment | null = null;
      let reportedMs = performance.now();
      for (const [i, frame] of frames.entries()) {
        if (gate.isHeld) await gate.passed();
        const moment = film.timeline.at(Math.round((frame * CLOCK_HZ) / framesPerSecond));
        const isNextDue = frames[i + 1] === frame + 1;
        const measure = { heightPx: size.heightPx, framesPerSecond };
        if (before && isNextDue && isHardlyMore(before, moment, camera.placementOf(moment), measure)) {
          // The next frame shows it. What comes after that one is measured against it, not against this one.
          before = null;
          continue;
        }
        before = moment;
        await camera.take(moment, captionAt(frame / framesPerSecond));
        const endSeconds = i + 1 < frames.length ? frames[i + 1] / framesPerSecond : untilSeconds;
        await encoder.add(camera.picture, frame / framesPerSecond - firstSeconds, endSeconds - firstSeconds);
        if (performance.now() - reportedMs > REPORT_EVERY_MS) {
          reportedMs = performance.now();
          onFrames(i + 1);
        }
      }
    });
  },

  /** @returns how long it is shown */
  async makeTitle(path: PrivatePath): Promise<number> {
    await intoFile(path, async (encoder, camera) => {
      camera.takeTitle(film.title);
      await encoder.add(camera.picture, 0, TITLE_SECONDS);
    });
    return TITLE_SECONDS;
  },

  /** The page as it ends: a picture by which files are known. */
  async cover(): Promise<Uint8Array<ArrayBuffer>> {
    const canvas = new OffscreenCanvas(COVER.widthPx, COVER.heightPx);
    const moment = film.timeline.at(film.timeline.lengthSamples);
    const camera = new Camera(COVER, { ...film.settings, captions: 'none' }, film.images, canvas);
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
    await fill(encoder, new Camera(pictureSize(film.settings), film.settings, film.images));
    await encoder.finish();
    await output.finalize();
  } catch (error) {
    encoder.abandon();
    file.close();
    throw error;
  }
  await file.finish();
}

/** What is read at a moment, where captions are drawn into the picture. */
function captionAt(seconds: number): string {
  if (film.settings.captions !== 'drawn') return '';
  const samples = seconds * CLOCK_HZ;
  const cue = film.cues.find(({ startSamples, endSamples }) => samples >= startSamples && samples < endSamples);
  return cue?.text ?? '';
}

expose(filmPart);
