import type { FilmChapter } from '@kite-trail/core/formats/chapters/film-chapter';
import { withMp4Chapters } from '@kite-trail/core/formats/chapters/in-mp4';
import { vorbisChapters } from '@kite-trail/core/formats/chapters/in-vorbis';
import { expose } from 'comlink';
import {
  ALL_FORMATS,
  BlobSource,
  BufferTarget,
  EncodedAudioPacketSource,
  EncodedPacketSink,
  Input,
  Mp4OutputFormat,
  OggOutputFormat,
  Output,
  type MetadataTags,
} from 'mediabunny';
import { languageCodeOf } from './language-code';

/** What is known of a sound. */
export interface SoundAbout {
  title: string;
  /** A language tag (BCP 47), or nothing. */
  language: string;
  chapters: readonly FilmChapter[];
}

/** Gives an encoded sound its title and its chapters, without encoding it anew. */
const dressedSound = {
  async dress(file: Blob, codec: 'aac' | 'opus', about: SoundAbout): Promise<Blob> {
    const { title, chapters } = about;
    if (codec === 'opus') {
      return new Blob([await copied(file, codec, about, { title, raw: vorbisChapters(chapters) })], {
        type: file.type,
      });
    }
    const at = { moov: 0, end: 0 };
    const onMoov = (moov: Uint8Array, start: number) => Object.assign(at, { moov: start, end: start + moov.length });
    const bytes = new Uint8Array(await copied(file, codec, about, { title }, onMoov));
    const moov = withMp4Chapters(bytes.subarray(at.moov, at.end), chapters);
    // The index lies at the end, so nothing else moves.
    return new Blob([bytes.subarray(0, at.moov), moov, bytes.subarray(at.end)], { type: file.type });
  },
};
export type DressedSoundWorker = typeof dressedSound;

async function copied(
  file: Blob,
  codec: 'aac' | 'opus',
  { language }: SoundAbout,
  tags: MetadataTags,
  onMoov?: (moov: Uint8Array, at: number) => void,
): Promise<ArrayBuffer> {
  const track = (await new Input({ source: new BlobSource(file), formats: ALL_FORMATS }).getPrimaryAudioTrack())!;
  const target = new BufferTarget();
  const format = codec === 'aac' ? new Mp4OutputFormat({ fastStart: false, onMoov }) : new OggOutputFormat();
  const output = new Output({ format, target });
  const source = new EncodedAudioPacketSource(codec);
  output.addAudioTrack(source, { languageCode: languageCodeOf(language) });
  output.setMetadataTags(tags);
  await output.start();
  const meta = { decoderConfig: (await track.getDecoderConfig()) ?? undefined };
  for await (const packet of new EncodedPacketSink(track).packets()) await source.add(packet, meta);
  await output.finalize();
  return target.buffer!;
}

expose(dressedSound);
