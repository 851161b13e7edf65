import type { FromClockShift, ToClockShift } from '../workers/sound/clock-shift.worker';
import ClockShiftWorker from '../workers/sound/clock-shift.worker?worker';

/** The browser's own way to read a track with its capture times (W3C mediacapture-transform), where it has it. */
type TrackProcessorClass = new (init: { track: MediaStreamTrack }) => { readable: ReadableStream<AudioData> };

/** Capture times count as being on the page's clock when they are this near to it. */
const PLAUSIBLE_MS = 1000;

/**
 * Measures where in the audio context's time the sounds of a moment are captured, by hearing the microphone twice: by its
 * capture times and through the graph. That shift is another one in every session, by a render burst or more, and changes
 * when the sound device stalls; so it is measured as long as the microphone is open, in a worker.
 */
export class ShiftMeter {
  private readonly worker = new ClockShiftWorker();

  private constructor(
    private readonly track: MediaStreamTrack,
    onMeasured: (seconds: number) => void,
  ) {
    this.worker.onmessage = ({ data }: MessageEvent<FromClockShift>) => onMeasured(data / 1000);
  }

  /** `null` where the browser cannot tell. */
  static of(track: MediaStreamTrack, onMeasured: (seconds: number) => void): ShiftMeter | null {
    const Processor = (globalThis as { MediaStreamTrackProcessor?: TrackProcessorClass }).MediaStreamTrackProcessor;
    if (!Processor) return null;
    const own = track.clone();
    const meter = new ShiftMeter(own, onMeasured);
    void meter.read(new Processor({ track: own }).readable.getReader());
    return meter;
  }

  /** Takes what the graph has from a moment of the audio context on, which is ahead of the page's clock by about so much. */
  hear(startSeconds: number, samples: Float32Array<ArrayBuffer>, hz: number, aheadSeconds: number): void {
    const [startMs, aheadMs] = [startSeconds * 1000, aheadSeconds * 1000];
    this.tell({ clock: 'context', startMs, samples, hz, aheadMs });
  }

  close(): void {
    this.track.stop();
    this.worker.terminate();
  }

  /** Read here and not in the worker: browsers stamp the capture times by the clock of the one who reads. */
  private async read(reader: ReadableStreamDefaultReader<AudioData>): Promise<void> {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) return;
      const [startMs, hz] = [value.timestamp / 1000, value.sampleRate];
      const samples = new Float32Array(value.numberOfFrames);
      value.copyTo(samples, { planeIndex: 0, format: 'f32-planar' });
      value.close();
      if (Math.abs(startMs - performance.now()) > PLAUSIBLE_MS) continue;
      this.tell({ clock: 'page', startMs, samples, hz });
    }
  }

  private tell(message: ToClockShift): void {
    this.worker.postMessage(message, [message.samples.buffer]);
  }
}
