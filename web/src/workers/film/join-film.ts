import { containerOf, soundCodecOf, type FilmSettings } from '@kite-trail/core/film/settings';
import type { FilmChapter } from '@kite-trail/core/formats/chapters/film-chapter';
import { mp4ChapterBytes, withMp4Chapters } from '@kite-trail/core/formats/chapters/in-mp4';
import { webmChapterBytes, webmChapterPatches } from '@kite-trail/core/formats/chapters/in-webm';
import { writeWebVtt, type TimedText } from '@kite-trail/core/formats/timed-text';
import {
  ALL_FORMATS,
  AttachedFile,
  BlobSource,
  EncodedAudioPacketSource,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  Input,
  Mp4OutputFormat,
  Output,
  TextSubtitleSource,
  WebMOutputFormat,
  type AttachedImage,
  type EncodedPacket,
  type InputAudioTrack,
  type InputVideoTrack,
  type MetadataTags,
  type Target,
} from 'mediabunny';
import { languageCodeOf } from './language-code';

/** A film that is made in parts, and what is known of it. */
export interface FilmToJoin {
  settings: FilmSettings;
  parts: readonly FilmPartFile[];
  /** `null` where nobody speaks. */
  sound: { file: Blob; startSeconds: number } | null;
  title: string;
  /** A language tag (BCP 47), or nothing. */
  language: string;
  cover: Uint8Array<ArrayBuffer>;
  chapters: readonly FilmChapter[];
  cues: readonly TimedText[];
}

/** A part's pictures, in a file that begins at 0 s. */
export interface FilmPartFile {
  file: Blob;
  startSeconds: number;
  endSeconds: number;
}

/** Where a film is written: what is there can be read back, and written over. */
export interface FilmFile {
  target(): Target;
  read(at: number, length: number): Uint8Array<ArrayBuffer>;
  write(bytes: Uint8Array<ArrayBuffer>, at: number): void;
}

type OnDone = (done: number) => void;

/** So much room is kept in an MP4's index for each packet, at least, in bytes. */
const INDEX_BYTES = 32;
/** A WebM's elements before its first frame are found in so much of it. */
const HEAD_BYTES = 4 * 2 ** 20;
const BOX_HEAD_BYTES = 8;
const REPORT_EVERY_SECONDS = 20;

/** Joins what was encoded to one file, without encoding it anew. @param onDone hears how much is done, from 0 to 1 */
export const joinFilm = (film: FilmToJoin, file: FilmFile, onDone: OnDone): Promise<void> =>
  containerOf(film.settings.codec) === 'webm' ? joinWebm(film, file, onDone) : joinMp4(film, file, onDone);

async function joinMp4(film: FilmToJoin, file: FilmFile, onDone: OnDone): Promise<void> {
  const { chapters } = film;
  let movie = { bytes: new Uint8Array(), at: 0 };
  const format = new Mp4OutputFormat({
    // Space for the index is kept at the start, so players can begin before they have all.
    fastStart: 'reserve',
    // What follows it is told along.
    onMoov: (bytes, at) => (movie = { bytes: bytes.slice(0, sizeOf(bytes)), at }),
  });
  const room = Math.ceil(mp4ChapterBytes(chapters) / INDEX_BYTES);
  await writeFilm(film, new Output({ format, target: file.target() }), { images: [coverOf(film)] }, room, onDone);
  if (chapters.length === 0) return;
  const larger = withMp4Chapters(movie.bytes, chapters);
  // The free space that follows begins later, and is smaller, by what was put in.
  const freeAt = movie.at + movie.bytes.length;
  const free = file.read(freeAt, BOX_HEAD_BYTES);
  const left = sizeOf(free) - (larger.length - movie.bytes.length);
  if (left < BOX_HEAD_BYTES) throw new Error('There is no room for its chapters.');
  new DataView(free.buffer).setUint32(0, left);
  file.write(larger, movie.at);
  file.write(free, movie.at + larger.length);
}

const sizeOf = (box: Uint8Array): number => new DataView(box.buffer, box.byteOffset).getUint32(0);

async function joinWebm(film: FilmToJoin, file: FilmFile, onDone: OnDone): Promise<void> {
  const { chapters } = film;
  const room = new Uint8Array(webmChapterBytes(chapters));
  const raw = { '1': new AttachedFile(room, 'application/octet-stream', 'chapters') };
  const output = new Output({ format: new WebMOutputFormat(), target: file.target() });
  await writeFilm(film, output, chapters.length > 0 ? { raw } : {}, 0, onDone);
  if (chapters.length === 0) return;
  for (const { at, bytes } of webmChapterPatches(file.read(0, HEAD_BYTES), chapters)) file.write(bytes, at);
}

const coverOf = ({ cover }: FilmToJoin): AttachedImage => ({
  data: cover,
  mimeType: 'image/jpeg',
  kind: 'coverFront',
});

async function writeFilm(
  film: FilmToJoin,
  output: Output,
  tags: MetadataTags,
  spareIndexEntries: number,
  onDone: OnDone,
): Promise<void> {
  const lanes = [await pictureLane(film, output, spareIndexEntries), await soundLane(film, output)].filter(
    (lane) => lane !== null,
  );
  const captions = captionTrack(film, output);
  output.setMetadataTags({ title: film.title, ...tags });
  await output.start();
  const written = captions?.add();
  const lengthSeconds = Math.max(...film.parts.map(({ startSeconds }) => startSeconds), 1);
  let toldSeconds = 0;
  for (const lane of lanes) await lane.advance();
  while (true) {
    const open = lanes.filter(({ next }) => next !== null);
    if (open.length === 0) break;
    const first = open.reduce((a, b) => (a.next!.timestamp <= b.next!.timestamp ? a : b));
    await first.write();
    await first.advance();
    const { timestamp } = first.next ?? { timestamp: 0 };
    if (timestamp - toldSeconds > REPORT_EVERY_SECONDS) onDone(Math.min(1, (toldSeconds = timestamp) / lengthSeconds));
  }
  await written;
  await output.finalize();
}

/** What one track still has to write, in its order. */
class Lane {
  next: EncodedPacket | null = null;

  constructor(
    private readonly packets: AsyncIterator<EncodedPacket>,
    private readonly source: { close(): void },
    private readonly add: (packet: EncodedPacket) => Promise<void>,
  ) {}

  async advance(): Promise<void> {
    const { done, value } = await this.packets.next();
    this.next = done ? null : value;
    if (done) this.source.close();
  }

  write(): Promise<void> {
    return this.add(this.next!);
  }
}

async function pictureLane({ parts, settings, language }: FilmToJoin, output: Output, spare: number): Promise<Lane> {
  const source = new EncodedVideoPacketSource(settings.codec);
  const tracks = await Promise.all(
    parts.map(async ({ file, ...when }) => ({ track: (await opened(file).getPrimaryVideoTrack())!, ...when })),
  );
  const counts = await Promise.all(tracks.map(async ({ track }) => (await track.computePacketStats()).packetCount));
  const maximumPacketCount = counts.reduce((sum, count) => sum + count, spare);
  output.addVideoTrack(source, { maximumPacketCount, languageCode: languageCodeOf(language) });
  const [{ track }] = tracks;
  const meta = { decoderConfig: (await track.getDecoderConfig()) ?? undefined };
  return new Lane(picturesInTurn(tracks), source, (packet) => source.add(packet, meta));
}

async function soundLane({ sound, settings, language }: FilmToJoin, output: Output): Promise<Lane | null> {
  const track = sound && (await opened(sound.file).getPrimaryAudioTrack());
  if (!track) return null;
  const source = new EncodedAudioPacketSource(soundCodecOf(settings.codec));
  const maximumPacketCount = (await track.computePacketStats()).packetCount;
  output.addAudioTrack(source, { maximumPacketCount, languageCode: languageCodeOf(language) });
  const packets = soundInTurn(track, sound.startSeconds);
  const meta = { decoderConfig: (await track.getDecoderConfig()) ?? undefined };
  return new Lane(packets, source, (packet) => source.add(packet, meta));
}

/** Captions that players switch on. */
function captionTrack({ cues, settings, language }: FilmToJoin, output: Output): { add(): Promise<void> } | null {
  if (settings.captions !== 'track' || cues.length === 0) return null;
  const source = new TextSubtitleSource('webvtt');
  // Between two of them, an MP4 has an empty one.
  output.addSubtitleTrack(source, { maximumPacketCount: 2 * cues.length + 1, languageCode: languageCodeOf(language) });
  return { add: () => source.add(writeWebVtt(cues)).then(() => source.close()) };
}

const opened = (file: Blob): Input => new Input({ source: new BlobSource(file), formats: ALL_FORMATS });

/** The sound's packets on the film's own clock. */
async function* soundInTurn(track: InputAudioTrack, startSeconds: number): AsyncGenerator<EncodedPacket> {
  for await (const packet of new EncodedPacketSink(track).packets()) {
    yield packet.clone({ timestamp: packet.timestamp + startSeconds });
  }
}

interface PartTrack {
  track: InputVideoTrack;
  startSeconds: number;
  endSeconds: number;
}

/**
 * The pictures of all parts on the film's own clock, in the order in which they are decoded. Each is shown until the next is: where an
 * encoder decodes them in another order than they are shown, their file does not say for how long.
 */
async function* picturesInTurn(tracks: readonly PartTrack[]): AsyncGenerator<EncodedPacket> {
  for (const { track, startSeconds, endSeconds } of tracks) {
    const packets: EncodedPacket[] = [];
    for await (const packet of new EncodedPacketSink(track).packets()) packets.push(packet);
    const shown = packets.map(({ timestamp }) => timestamp).sort((a, b) => a - b);
    const next = new Map(shown.map((at, n) => [at, shown[n + 1] ?? endSeconds - startSeconds]));
    for (const packet of packets) {
      const { timestamp } = packet;
      yield packet.clone({ timestamp: timestamp + startSeconds, duration: next.get(timestamp)! - timestamp });
    }
  }
}
