import { DecodedPeak } from './decoded-peak';
import { encodeProgrammeSound, type SoundTask } from './programme-sound';

/** How high the peaks of a programme's sound are once it is encoded and decoded, in dBTP; `null` where that cannot be told. */
export type PeakReport = { peakDb: number | null } | { failed: string };

onmessage = async ({ data: task }: MessageEvent<SoundTask>) => {
  const report = (message: PeakReport) => postMessage(message);
  try {
    const peak = new DecodedPeak();
    await encodeProgrammeSound(task, (packet) => peak.add(packet));
    report({ peakDb: await peak.finish() });
  } catch (error) {
    report({ failed: error instanceof Error ? error.message : String(error) });
  }
};
