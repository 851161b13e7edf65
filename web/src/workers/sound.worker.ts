import { DecodedPeak } from './decoded-peak';
import { makeSoundFile, type SoundTask } from './sound-file';

export type SoundReport =
  | { kind: 'progress'; done: number }
  /** `peakDb` is the true peak of what a decoder makes of the file; `null` where this browser has none. */
  | { kind: 'file'; file: Blob; peakDb: number | null }
  | { kind: 'failed'; message: string };

const report = (message: SoundReport) => postMessage(message);

onmessage = async ({ data: task }: MessageEvent<SoundTask>) => {
  try {
    const peak = new DecodedPeak();
    const file = await makeSoundFile(
      task,
      (packet) => peak.add(packet),
      (done) => report({ kind: 'progress', done }),
    );
    report({ kind: 'file', file: new Blob([file], { type: 'audio/mp4' }), peakDb: await peak.finish() });
  } catch (error) {
    report({ kind: 'failed', message: error instanceof Error ? error.message : String(error) });
  }
};
