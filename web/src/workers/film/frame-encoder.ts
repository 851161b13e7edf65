import { bitsPerSecond, codecName, pictureSize, type FilmSettings } from '@kite-trail/core/film/settings';
import type { I420Picture } from '@kite-trail/core/paint/i420';
import { EncodedPacket, EncodedVideoPacketSource } from 'mediabunny';
import { EncodingFailed } from './encoding-failed';

/** Frames waiting for the encoder: enough to keep it busy while the next is painted. */
const QUEUE = 6;
const KEY_FRAME_SECONDS = 5;
const MICROSECONDS = 1_000_000;
/** BT.709 in limited range, as the pictures are converted. */
const COLORS: VideoColorSpaceInit = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false };

/** How a browser's encoder is asked for a film. */
export function encoderConfig(settings: FilmSettings): VideoEncoderConfig {
  const { widthPx, heightPx } = pictureSize(settings);
  const common = { codec: codecName(settings), width: widthPx, height: heightPx, bitrate: bitsPerSecond(settings) };
  if (settings.codec === 'avc') {
    // How to decode it is then said in the stream itself (ITU-T H.264, annex B): the other form's description is wrong in Firefox.
    return { ...common, latencyMode: 'quality', avc: { format: 'annexb' } };
  }
  // Pages are drawn, not filmed: encoders have tools for that, and are many times faster without those for the other.
  return { ...common, latencyMode: 'realtime', contentHint: 'text' };
}

/** Encodes pictures for a file's video track. @throws EncodingFailed from all it does */
export class FrameEncoder {
  readonly source: EncodedVideoPacketSource;
  private readonly encoder: VideoEncoder;
  private writing = Promise.resolve();
  private lastKeySeconds = -Infinity;
  private failure: unknown = null;

  constructor(settings: FilmSettings) {
    this.source = new EncodedVideoPacketSource(settings.codec);
    this.encoder = new VideoEncoder({
      output: (chunk, meta) => {
        const packet = EncodedPacket.fromEncodedChunk(chunk);
        this.writing = this.writing.then(() => this.source.add(packet, meta));
      },
      error: (error) => (this.failure = error),
    });
    try {
      this.encoder.configure(encoderConfig(settings));
    } catch (error) {
      throw new EncodingFailed(error);
    }
  }

  /** Encodes a picture that is shown from one moment to another. Settles when there is room for the next. */
  async add(picture: I420Picture, fromSeconds: number, toSeconds: number): Promise<void> {
    const frame = new VideoFrame(picture.bytes, {
      format: 'I420',
      codedWidth: picture.widthPx,
      codedHeight: picture.heightPx,
      timestamp: Math.round(fromSeconds * MICROSECONDS),
      duration: Math.round((toSeconds - fromSeconds) * MICROSECONDS),
      colorSpace: COLORS,
    });
    const keyFrame = fromSeconds - this.lastKeySeconds >= KEY_FRAME_SECONDS;
    if (keyFrame) this.lastKeySeconds = fromSeconds;
    try {
      this.encoder.encode(frame, { keyFrame });
    } catch (error) {
      throw new EncodingFailed(this.failure ?? error);
    } finally {
      frame.close();
    }
    while (this.encoder.encodeQueueSize > QUEUE && !this.failure) {
      await new Promise((resolve) => this.encoder.addEventListener('dequeue', resolve, { once: true }));
    }
    if (this.failure) throw new EncodingFailed(this.failure);
  }

  async finish(): Promise<void> {
    await this.encoder.flush().catch((error: unknown) => {
      throw new EncodingFailed(this.failure ?? error);
    });
    await this.writing;
    this.encoder.close();
    this.source.close();
  }

  /** Gives it up. */
  abandon(): void {
    if (this.encoder.state !== 'closed') this.encoder.close();
  }
}
