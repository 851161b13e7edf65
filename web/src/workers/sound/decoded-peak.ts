import { TruePeakMeter } from '@kite-trail/core/sound/true-peak';
import type { SoundPacket } from './programme-sound';

const MICROSECONDS = 1_000_000;

/** The true peak of what a decoder makes of AAC packets: a codec's noise may add decibels to a peak. */
export class DecodedPeak {
  private readonly meter = new TruePeakMeter();
  private decoder: AudioDecoder | null = null;
  private failed = typeof AudioDecoder === 'undefined';

  /** Takes the packets of one sound in their order. */
  async add({ data, timestamp, duration, meta }: SoundPacket): Promise<void> {
    if (meta?.decoderConfig) await this.configure(meta.decoderConfig);
    if (this.failed || !this.decoder) return;
    // What primes the encoder is dated before the beginning.
    const [at, forUs] = [timestamp, duration].map((seconds) => Math.round(seconds * MICROSECONDS));
    this.decoder.decode(new EncodedAudioChunk({ type: 'key', timestamp: at, duration: forUs, data }));
  }

  /** @returns in dBTP; `null` where this browser has no decoder to ask */
  async finish(): Promise<number | null> {
    await this.decoder?.flush().catch(() => (this.failed = true));
    return this.failed ? null : this.meter.finish();
  }

  private async configure(config: AudioDecoderConfig): Promise<void> {
    if (this.failed || this.decoder) return;
    const { supported } = await AudioDecoder.isConfigSupported(config).catch(() => ({ supported: false }));
    if (!supported) {
      this.failed = true;
      return;
    }
    this.decoder = new AudioDecoder({
      output: (decoded) => this.measure(decoded),
      error: () => (this.failed = true),
    });
    this.decoder.configure(config);
  }

  private measure(decoded: AudioData): void {
    const samples = new Float32Array(decoded.numberOfFrames);
    decoded.copyTo(samples, { planeIndex: 0, format: 'f32-planar' });
    decoded.close();
    this.meter.add(samples);
  }
}
