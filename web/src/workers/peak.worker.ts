import { DecodedPeak } from './decoded-peak';
import { encodeProgrammeSound } from './programme-sound';
import type { SoundTask } from './sound-file';

/** How high the peaks of a programme's sound are once it is encoded and decoded, in dBTP; `null` where that cannot be told. */
export type PeakReport = { peakDb: number | null } | { failed: string };

onmessage = async ({ data: { programme, urls, mastering } }: MessageEvent<SoundTask>) => {
  const report = (message: PeakReport) => postMessage(message);
  try {
    const peak = new DecodedPeak();
    await encodeProgrammeSound(
      programme,
      urls,
      mastering,
      (packet) => peak.add(packet),
      () => {},
    );
    report({ peakDb: await peak.finish() });
  } catch (error) {
    report({ failed: error instanceof Error ? error.message : String(error) });
  }
};
