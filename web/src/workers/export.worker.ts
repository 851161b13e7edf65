import { decodePayload, timelineOf } from '@kite-trail/core/formats/payload';
import { isEmptyRect } from '@kite-trail/core/lesson/rect';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { shownPage, type PageState } from '@kite-trail/core/lesson/scene';
import { evenRect, I420Picture } from '@kite-trail/core/paint/i420';
import { pagePixels, paintPage, type PixelRect } from '@kite-trail/core/paint/painter';
import { findAll } from '@kite-trail/core/paint/picture';
import { placedFor } from '@kite-trail/core/paint/view';
import { fitPage } from '@kite-trail/core/paint/surface';
import { CLOCK_HZ, samplesToSeconds } from '@kite-trail/core/trail/clock';
import { differenceBetween } from '@kite-trail/core/trail/difference';
import type { Moment, Timeline } from '@kite-trail/core/trail/timeline';
import { EncodedAudioPacketSource, EncodedPacket, Mp4OutputFormat, Output, StreamTarget } from 'mediabunny';
import { ImageStore } from '../pictures/image-store';
import { LessonFileLoader } from '../pictures/lesson-file-loader';
import { Allowance } from './allowance';
import type { EncodedSound } from './export-sound.worker';
import { FrameEncoder } from './frame-encoder';

export interface ExportTask {
  payload: Uint8Array;
  /** Where the file is put, in the browser's own private folder on this device. */
  fileName: string;
  /** Whose pictures and PDFs are shown. */
  lesson: LessonId;
  /** Brings the encoded sound, or `null` where nobody speaks. */
  sound: MessagePort | null;
}

export type ExportReport =
  | { kind: 'progress'; done: number }
  | { kind: 'finished'; framesEncoded: number }
  | { kind: 'failed'; message: string };

const SIZE = { widthPx: 1280, heightPx: 720 };
const FRAMES_PER_SECOND = 30;
const REPORT_EVERY_MS = 500;
const SURROUND = '#1f2a44';
/** AAC-LC packs 1024 samples into a packet (ISO/IEC 14496-3). */
const AAC_PACKET_SAMPLES = 1024;

const report = (message: ExportReport) => postMessage(message);

onmessage = async ({ data }: MessageEvent<ExportTask>) => {
  try {
    report({ kind: 'finished', framesEncoded: await exportVideo(data) });
  } catch (error) {
    report({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
  }
};

async function exportVideo({ payload, fileName, lesson, sound }: ExportTask): Promise<number> {
  const timeline = timelineOf(decodePayload(payload));
  const frames = timeline.changedFrames(FRAMES_PER_SECOND);
  const file = await openFile(fileName);
  const output = new Output({
    // Space for the index is kept at the start, so players can begin before they have all.
    format: new Mp4OutputFormat({ fastStart: 'reserve' }),
    target: new StreamTarget(
      new WritableStream({ write: ({ data, position }) => void file.write(data, { at: position }) }),
    ),
  });
  const files = new LessonFileLoader(lesson);
  const camera = new Camera(new ImageStore(files.load));
  const pictures = new FrameEncoder(SIZE);
  output.addVideoTrack(pictures.source, { maximumPacketCount: frames.length });
  const voice = sound && new SoundTrack(sound);
  if (voice) {
    const packets = Math.ceil(timeline.lengthSamples / AAC_PACKET_SAMPLES) + 8;
    output.addAudioTrack(voice.source, { maximumPacketCount: packets });
  }
  await output.start();
  await Promise.all([encodeFrames(timeline, frames, camera, pictures, voice), voice?.done]);
  await output.finalize();
  file.flush();
  file.close();
  return frames.length;
}

async function openFile(name: string): Promise<FileSystemSyncAccessHandle> {
  const folder = await navigator.storage.getDirectory();
  const handle = await folder.getFileHandle(name, { create: true });
  const file = await handle.createSyncAccessHandle();
  file.truncate(0);
  return file;
}

/** Paints and encodes each frame in which something changed; it is shown until the next one. */
async function encodeFrames(
  timeline: Timeline,
  frames: readonly number[],
  camera: Camera,
  pictures: FrameEncoder,
  voice: SoundTrack | null,
): Promise<void> {
  let reportedMs = performance.now();
  for (const [i, frame] of frames.entries()) {
    const seconds = frame / FRAMES_PER_SECOND;
    await voice?.ahead.reach(seconds);
    await camera.take(timeline.at(Math.round(seconds * CLOCK_HZ)));
    const untilSeconds =
      i + 1 < frames.length ? frames[i + 1] / FRAMES_PER_SECOND : samplesToSeconds(timeline.lengthSamples);
    await pictures.add(camera.picture, seconds, Math.max(seconds + 1 / FRAMES_PER_SECOND, untilSeconds));
    voice?.pictureAt(untilSeconds);
    if (performance.now() - reportedMs > REPORT_EVERY_MS) {
      reportedMs = performance.now();
      report({ kind: 'progress', done: frame / (frames[frames.length - 1] + 1) });
    }
  }
  await pictures.finish();
}

/** Keeps the picture of the moment last taken, and converts only what differs in the next one. */
class Camera {
  readonly picture = new I420Picture(SIZE.widthPx, SIZE.heightPx);
  private readonly surface: OffscreenCanvasRenderingContext2D;
  private last: Moment | null = null;
  private gathered: PageState | null = null;

  constructor(private readonly images: ImageStore) {
    const canvas = new OffscreenCanvas(SIZE.widthPx, SIZE.heightPx);
    this.surface = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  }

  async take(moment: Moment): Promise<void> {
    const difference = this.last ? differenceBetween(this.last, moment) : 'whole';
    this.last = moment;
    const state = shownPage(moment.scene);
    const { look } = moment.scene;
    const placement = look ? placedFor(state.page, SIZE, look) : fitPage(state.page, SIZE);
    await this.gather(state, placement.pxPerPt);
    if (difference === 'whole') {
      this.surface.setTransform(1, 0, 0, 1, 0, 0);
      this.surface.fillStyle = SURROUND;
      this.surface.fillRect(0, 0, SIZE.widthPx, SIZE.heightPx);
      paintPage(this.surface, state, placement, this.images, moment);
      this.read({ x: 0, y: 0, width: SIZE.widthPx, height: SIZE.heightPx });
    } else if (!isEmptyRect(difference)) {
      paintPage(this.surface, state, placement, this.images, moment, difference);
      this.read(evenRect(pagePixels(state.page, placement, difference), SIZE));
    }
  }

  /** A film waits for its pictures; a page on the screen does not. */
  private async gather(state: PageState, pxPerPt: number): Promise<void> {
    if (state === this.gathered) return;
    this.gathered = state;
    if (findAll(state, this.images, pxPerPt)) return;
    await this.images.settled();
    if (!findAll(state, this.images, pxPerPt)) {
      throw new Error('A picture of this lesson cannot be loaded just now. Try again in a moment.');
    }
  }

  private read(rect: PixelRect): void {
    if (rect.width <= 0 || rect.height <= 0) return;
    this.picture.put(this.surface.getImageData(rect.x, rect.y, rect.width, rect.height).data, rect);
  }
}

/** The sound as it comes from its own worker, never far ahead of the pictures nor far behind. */
class SoundTrack {
  readonly source = new EncodedAudioPacketSource('aac');
  /** Holds the pictures back while the sound lags behind. */
  readonly ahead = new Allowance();
  readonly done: Promise<void>;
  private toldSeconds = 0;

  constructor(private readonly port: MessagePort) {
    this.done = new Promise((resolve, reject) => {
      let adding = Promise.resolve();
      port.onmessage = ({ data }: MessageEvent<EncodedSound>) => {
        adding = adding.then(() => this.add(data, resolve)).catch(reject);
      };
    });
  }

  /** Tells the sound's worker how far the pictures are, about once a second of them. */
  pictureAt(seconds: number): void {
    if (seconds - this.toldSeconds < 1) return;
    this.toldSeconds = seconds;
    this.port.postMessage(seconds);
  }

  private async add(message: EncodedSound, end: () => void): Promise<void> {
    if (message === 'end') {
      this.source.close();
      this.ahead.moveTo(Infinity);
      end();
    } else if ('failed' in message) {
      throw new Error(message.failed);
    } else {
      const { data, timestamp, duration, meta } = message;
      await this.source.add(new EncodedPacket(data, 'key', timestamp, duration), meta);
      this.ahead.moveTo(timestamp + duration);
    }
  }
}
