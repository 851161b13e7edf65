import { decodeProfile } from '@kite-trail/core/formats/profile-coding';
import { ProfileGatherer, type TakeProfile } from '@kite-trail/core/sound/profile';
import { decodeSound, openSound } from './take-sound-reader';

/** A profile that is kept somewhere, or a sound to be listened to. */
export type ProfileTask = { kept: string } | { sound: string };
/** What was found; `null` where it cannot be read. */
export type ProfileReport = TakeProfile | null;

onmessage = async ({ data: task }: MessageEvent<ProfileTask>) => {
  const report = await ('kept' in task ? read(task.kept) : listened(task.sound)).catch(() => null);
  const transfer = report ? [report.peaks.buffer, report.energies.buffer] : [];
  postMessage(report satisfies ProfileReport, { transfer });
};

async function read(url: string): Promise<TakeProfile> {
  return decodeProfile(new Uint8Array(await (await fetch(url)).arrayBuffer()));
}

async function listened(url: string): Promise<TakeProfile> {
  const gatherer = new ProfileGatherer();
  const track = await openSound(url);
  if (track) for await (const { samples } of decodeSound(track)) gatherer.add(samples);
  return gatherer.finish();
}
