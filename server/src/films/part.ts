import { createHash } from 'node:crypto';
import type { WantedFilmPart } from '@kite-trail/core/contract/film';
import { Camera } from '@kite-trail/core/film/camera';
import { filmed } from '@kite-trail/core/film/filmed';
import { drawnCaption, shotsOf } from '@kite-trail/core/film/frames';
import { pictureSize, TITLE_SECONDS, type FilmSettings } from '@kite-trail/core/film/settings';
import { FormatError } from '@kite-trail/core/formats/bytes';
import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import type { AssetId, LessonId, TeacherId } from '@kite-trail/core/lesson/ids';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { createCanvas } from '@napi-rs/canvas';
import type { Knex } from 'knex';
import {
  BufferSource,
  BufferTarget,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  Input,
  MATROSKA,
  Mp4OutputFormat,
  Output,
} from 'mediabunny';
import { Shelf } from '../assets/shelf';
import { uploadedBytes } from '../assets/uploads';
import type { LessonRow } from '../database/rows';
import { badInput, conflict } from '../http/problem';
import { encodePictures } from './encoder';
import { FilmImages } from './film-images';
import { loadLetters } from './letters';

/** Between pictures that can be decoded without those before, as in films that browsers make. */
const KEY_FRAME_SECONDS = 5;

/** When a picture is shown, from the part's beginning. */
interface Shown {
  fromSeconds: number;
  toSeconds: number;
}

/**
 * Paints and encodes a part of a film, as a browser does that has an encoder.
 * @param ffmpeg the program that encodes
 * @returns an MP4 with the part's pictures alone, which begins at 0 s
 * @throws RequestProblem where what it is made from is not here, or is none
 */
export async function makeFilmPart(
  db: Knex,
  asked: { lesson: LessonId; teacher: TeacherId; ffmpeg: string; wanted: WantedFilmPart },
): Promise<Uint8Array> {
  const { ffmpeg, wanted } = asked;
  const { settings, shows } = wanted;
  const { widthPx, heightPx } = pictureSize(settings);
  const lesson = (await db<LessonRow>('lessons').where({ id: asked.lesson }).first())!;
  const images = new FilmImages(db, await Shelf.ofLesson(db, lesson));
  const context = createCanvas(widthPx, heightPx).getContext('2d', { alpha: false });
  const camera = new Camera(context, { widthPx, heightPx }, settings, images);
  if (shows.kind === 'title') {
    loadLetters();
    camera.takeTitle(shows.title);
    return encoded(ffmpeg, settings, [{ fromSeconds: 0, toSeconds: TITLE_SECONDS }], async function* () {
      yield camera.picture.bytes;
    });
  }
  const timeline = filmedTimeline(await payloadOf(db, asked.teacher, wanted.payload), settings);
  const { frames, untilSeconds, cues } = shows;
  const lastSeconds = frames[frames.length - 1] / settings.framesPerSecond;
  if (lastSeconds > samplesToSeconds(timeline.lengthSamples) || untilSeconds < lastSeconds) {
    throw badInput('There is no such part of this lesson.');
  }
  if (cues.length > 0) loadLetters();
  const shots = [...shotsOf(shows, timeline, settings)];
  const beginSeconds = shots[0].fromSeconds;
  const shown = shots.map(({ fromSeconds, toSeconds }) => ({
    fromSeconds: fromSeconds - beginSeconds,
    toSeconds: toSeconds - beginSeconds,
  }));
  return encoded(ffmpeg, settings, shown, async function* () {
    for (const { moment, fromSeconds } of shots) {
      await camera.take(moment, drawnCaption(cues, fromSeconds));
      yield camera.picture.bytes;
    }
  });
}

/** What was sent to be filmed. @throws RequestProblem where it has not come, or is nothing that can be played */
async function payloadOf(db: Knex, teacher: TeacherId, asset: AssetId): Promise<Uint8Array> {
  const bytes = await uploadedBytes(db, teacher, asset);
  const isWhole = createHash('sha256').update(bytes).digest('hex') === asset;
  if (!isWhole) throw conflict('parts-missing', 'What this film shows has not arrived yet.');
  return bytes;
}

function filmedTimeline(bytes: Uint8Array, settings: FilmSettings): Timeline {
  try {
    return timelineOf(filmed(decodePayload(bytes), settings));
  } catch (error) {
    throw error instanceof FormatError ? badInput(error.message) : error;
  }
}

/** Encodes pictures, and says of each when it is shown. */
async function encoded(
  ffmpeg: string,
  settings: FilmSettings,
  shown: readonly Shown[],
  pictures: () => AsyncGenerator<Uint8Array>,
): Promise<Uint8Array> {
  const input = new Input({
    source: new BufferSource(await encodePictures(ffmpeg, settings, pictures(), keysOf(shown))),
    formats: [MATROSKA],
  });
  const track = (await input.getPrimaryVideoTrack())!;
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: false }), target: new BufferTarget() });
  const source = new EncodedVideoPacketSource(settings.codec);
  output.addVideoTrack(source);
  await output.start();
  const meta = { decoderConfig: (await track.getDecoderConfig())! };
  let n = 0;
  for await (const packet of new EncodedPacketSink(track).packets()) {
    const { fromSeconds, toSeconds } = shown[n++];
    await source.add(packet.clone({ timestamp: fromSeconds, duration: toSeconds - fromSeconds }), meta);
  }
  if (n !== shown.length) throw new Error(`ffmpeg has made ${n} of ${shown.length} pictures.`);
  await output.finalize();
  return new Uint8Array(output.target.buffer!);
}

/** The pictures that are decoded without those before: the first, and one of every few seconds. */
function keysOf(shown: readonly Shown[]): number[] {
  let lastSeconds = -Infinity;
  return shown.flatMap(({ fromSeconds }, n) => {
    if (fromSeconds - lastSeconds < KEY_FRAME_SECONDS) return [];
    lastSeconds = fromSeconds;
    return [n];
  });
}
