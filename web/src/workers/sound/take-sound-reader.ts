import type { TakeId } from '@kite-trail/core/lesson/ids';
import type { TakeSound } from '@kite-trail/core/sound/mix';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { BlobSource, EncodedPacketSink, Input, OGG, UrlSource, type InputAudioTrack } from 'mediabunny';
import { OpusDecoder } from 'opus-decoder';

/** A sound by an address, or itself. */
export type SoundSource = string | Blob;

/** Where each take's sound is to be had, by addresses that may be object URLs. */
export type SoundUrls = ReadonlyMap<TakeId, string>;

/** Where each take's sound is to be had: what is only on this device comes along, for its address may end. */
export type SoundSources = ReadonlyMap<TakeId, SoundSource>;

/** Sound is read once from start to end, so little of it is worth keeping. */
const CACHE_BYTES = 2 ** 20;

/** Takes have one voice; the stream's pre-skip is left out here. */
const MONO = { channels: 1, streamCount: 1, coupledStreamCount: 0, channelMappingTable: [0], preSkip: 0 };

/** Opens a sound file's first audio track, or `null` where it has none. */
export async function openSound(sound: SoundSource): Promise<InputAudioTrack | null> {
  const source = typeof sound === 'string' ? await sourceAt(sound) : new BlobSource(sound);
  return new Input({ source, formats: [OGG] }).getPrimaryAudioTrack();
}

const sourceAt = async (url: string) =>
  url.startsWith('blob:')
    ? new BlobSource(await (await fetch(url)).blob())
    : new UrlSource(url, { maxCacheSize: CACHE_BYTES });

/**
 * A decoder that begins in the middle needs so much to come right: 80 ms at least (RFC 7845, section 4.6), and three times
 * that until a steady tone is as loud as it was, to a thousandth.
 */
const PRE_ROLL_SAMPLES = 0.24 * CLOCK_HZ;

/**
 * Decodes a track from a moment on or a little before, as mono blocks in a row with the samples at which they begin.
 *
 * It is decoded in this thread: the browser's own decoder, on the other side of a process boundary, takes three times as
 * long, packet by packet.
 * @throws where a packet is damaged: how long it was is not known, so all behind it would be heard at the wrong time
 */
export async function* decodeSound(
  track: InputAudioTrack,
  fromSamples = 0,
): AsyncGenerator<{ atSamples: number; samples: Float32Array<ArrayBuffer> }> {
  const packets = new EncodedPacketSink(track);
  const beginAt = (fromSamples - PRE_ROLL_SAMPLES) / CLOCK_HZ;
  const first = (beginAt > 0 && (await packets.getPacket(beginAt))) || (await packets.getFirstPacket());
  if (!first) return;
  const decoder = new OpusDecoder(MONO);
  await decoder.ready;
  try {
    for await (const packet of packets.packets(first)) {
      const { channelData, errors } = decoder.decodeFrame(packet.data);
      if (errors.length > 0) throw new Error('The sound of this recording is damaged.');
      const [decoded] = channelData;
      const length = Math.round(packet.duration * CLOCK_HZ);
      const atSamples = Math.round(packet.timestamp * CLOCK_HZ);
      // The stream's pre-skip is cut off its first packets' beginning, and what is too much off the last one's end.
      const from = atSamples === 0 ? decoded.length - length : 0;
      if (length > 0) yield { atSamples, samples: decoded.slice(from, from + length) };
    }
  } finally {
    decoder.free();
  }
}

/** Reads takes' sounds stretch by stretch; memory holds a few blocks, however long they are. */
export class TakeSoundReader implements TakeSound {
  private readonly open = new Map<TakeId, SequentialReader>();

  constructor(private readonly sources: SoundSources) {}

  async read(take: TakeId, fromSamples: number, toSamples: number): Promise<Float32Array> {
    let reader = this.open.get(take);
    if (!reader || reader.position !== fromSamples) {
      await reader?.close();
      const source = this.sources.get(take);
      reader = new SequentialReader(source ? await openSound(source) : null, fromSamples);
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
