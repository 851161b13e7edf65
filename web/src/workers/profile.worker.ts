import { decodeProfile } from '@kite-trail/core/formats/profile-coding';
import { ProfileGatherer, profileOf, type ProfilePart, type TakeProfile } from '@kite-trail/core/sound/profile';
import type { Stretch } from '@kite-trail/core/trail/edit';
import { decodeSound, openSound } from './take-sound-reader';

/** A profile that is kept somewhere; or a part of a sound to be listened to; or such parts, to be put together. */
export type ProfileTask = { kept: string } | { sound: string; part: Stretch } | { parts: readonly ProfilePart[] };
/** What was found; `null` where it cannot be read. */
export type ProfileReport<Task extends ProfileTask> =
  (Task extends { sound: string } ? ProfilePart : TakeProfile) | null;

onmessage = async ({ data: task }: MessageEvent<ProfileTask>) => {
  const report = await found(task).catch(() => null);
  const transfer = report ? [report.peaks.buffer, report.energies.buffer] : [];
  postMessage(report satisfies ProfileReport<ProfileTask>, { transfer });
};

async function found(task: ProfileTask): Promise<TakeProfile | ProfilePart> {
  if ('kept' in task) return decodeProfile(new Uint8Array(await (await fetch(task.kept)).arrayBuffer()));
  return 'parts' in task ? profileOf(task.parts) : listened(task.sound, task.part);
}

async function listened(url: string, { fromSamples, toSamples }: Stretch): Promise<ProfilePart> {
  const gatherer = new ProfileGatherer(fromSamples);
  const track = await openSound(url);
  if (!track) return gatherer.finishPart();
  const begin = gatherer.beginSamples;
  for await (const { atSamples, samples } of decodeSound(track, begin)) {
    if (atSamples >= toSamples) break;
    gatherer.add(samples.subarray(Math.max(0, begin - atSamples), toSamples - atSamples));
  }
  return gatherer.finishPart();
}
