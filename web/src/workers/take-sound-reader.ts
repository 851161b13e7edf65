import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { TakeSound } from '@kite-trail/core/sound/mix';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { AudioSampleSink, BlobSource, Input, OGG, UrlSource, type InputAudioTrack } from 'mediabunny';

/** Where each take's sound is to be had: an address, which may be an object URL. */
export type SoundUrls = ReadonlyMap<TakeId, string>;

/** Sound is read once from start to end, so little of it is worth keeping. */
const CACHE_BYTES = 2 ** 20;

/** Opens a sound file's first audio track, or `null` where it has none. */
export async function openSound(url: string): Promise<InputAudioTrack | null> {
  const source = url.startsWith('blob:')
    ? new BlobSource(await (await fetch(url)).blob())
    : new UrlSource(url, { maxCacheSize: CACHE_BYTES });
  return new Input({ source, formats: [OGG] }).getPrimaryAudioTrack();
}

/** Where in an Opus identification header the pre-skip is: two bytes, the low one first (RFC 7845, section 5.1). */
const PRE_SKIP_AT = 10;
/** A decoder that begins in the middle needs so much to come right (RFC 7845, section 4.6). */
const PRE_ROLL_SAMPLES = 0.08 * CLOCK_HZ;

/**
 * Decodes a track from a moment on or a little before, as mono blocks in a row with the samples at which they begin.
 *
 * Decoders drop a stream's pre-skip wherever they begin, in the middle, too, and then all is heard that much too early. So
 * they are told that there is none, and at the stream's beginning it is left out here.
 */
export async function* decodeSound(
  track: InputAudioTrack,
  fromSamples = 0,
): AsyncGenerator<{ atSamples: number; samples: Float32Array<ArrayBuffer> }> {
  const preSkip = await takeOverPreSkip(track);
  let isFromStart: boolean | null = null;
  const beginAt = Math.max(0, fromSamples - PRE_ROLL_SAMPLES) / CLOCK_HZ;
  for await (const sample of new AudioSampleSink(track).samples(beginAt)) {
    const samples = new Float32Array(sample.numberOfFrames);
    sample.copyTo(samples, { planeIndex: 0, format: 'f32-planar' });
    isFromStart ??= sample.timestamp <= 0;
    const atSamples = Math.round(sample.timestamp * CLOCK_HZ) - (isFromStart ? preSkip : 0);
    sample.close();
    if (atSamples >= 0) yield { atSamples, samples };
    else if (atSamples + samples.length > 0) yield { atSamples: 0, samples: samples.slice(-atSamples) };
  }
}

/** Lets the track's decoder know of no pre-skip. @returns how much it is, in samples */
async function takeOverPreSkip(track: InputAudioTrack): Promise<number> {
  const config = await track.getDecoderConfig();
  if (!config?.description) return 0;
  const header = new Uint8Array(await new Response(config.description as BufferSource).arrayBuffer());
  const preSkip = header[PRE_SKIP_AT] + 256 * header[PRE_SKIP_AT + 1];
  header.fill(0, PRE_SKIP_AT, PRE_SKIP_AT + 2);
  track.getDecoderConfig = async () => ({ ...config, description: header });
  return preSkip;
}

/** Reads takes' sounds stretch by stretch; memory holds a few blocks, however long they are. */
export class TakeSoundReader implements TakeSound {
  private readonly open = new Map<TakeId, SequentialReader>();

  constructor(private readonly urls: SoundUrls) {}

  async read(take: TakeId, fromSamples: number, toSamples: number): Promise<Float32Array> {
    let reader = this.open.get(take);
    if (!reader || reader.position !== fromSamples) {
      await reader?.close();
      const url = this.urls.get(take);
      reader = new SequentialReader(url ? await openSound(url) : null, fromSamples);
      this.open.set(take, reader);
    }
    return reader.read(toSamples);
  }
}

class SequentialReader {
  private readonly blocks: ReturnType<typeof decodeSound> | null;
  private ahead: { atSamples: number; samples: Float32Array } | null = null;
  private ended = false;

  constructor(
    track: InputAudioTrack | null,
    public position: number,
  ) {
    this.blocks = track && decodeSound(track, position);
  }

  async read(toSamples: number): Promise<Float32Array> {
    const from = this.position;
    const out = new Float32Array(toSamples - from);
    this.position = toSamples;
    while (this.blocks && !this.ended) {
      this.ahead ??= (await this.blocks.next()).value ?? null;
      if (!this.ahead) {
        this.ended = true;
        break;
      }
      const { atSamples, samples } = this.ahead;
      if (atSamples >= toSamples) break;
      const start = Math.max(from, atSamples);
      const end = Math.min(toSamples, atSamples + samples.length);
      if (end > start) out.set(samples.subarray(start - atSamples, end - atSamples), start - from);
      if (atSamples + samples.length > toSamples) break;
      this.ahead = null;
    }
    return out;
  }

  async close(): Promise<void> {
    await this.blocks?.return(undefined);
  }
}
