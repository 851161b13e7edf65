import { decodeHeard, encodeHeard } from '@kite-trail/core/formats/profile-coding';
import { joinHeard, profileOf, type HeardVoice, type TakeProfile } from '@kite-trail/core/sound/profile';
import type { Stretch } from '@kite-trail/core/trail/edit';
import { listenTo } from './listening';

/** To read what was heard of a voice, to listen to a part of a sound, or to put together what was heard. */
export type ProfileTask = { kept: string } | { sound: string; part: Stretch } | { heard: readonly HeardVoice[] };
/** All that is known of a voice, and the bytes it is kept in. */
interface KnownVoice {
  profile: TakeProfile;
  bytes: Uint8Array<ArrayBuffer>;
}
/** What was found; `null` where it cannot be read. */
export type ProfileReport<Task extends ProfileTask> =
  (Task extends { heard: readonly HeardVoice[] } ? KnownVoice : HeardVoice) | null;

onmessage = async ({ data: task }: MessageEvent<ProfileTask>) => {
  const report = await found(task).catch(() => null);
  postMessage(report satisfies ProfileReport<ProfileTask>, { transfer: report ? buffersOf(report) : [] });
};

async function found(task: ProfileTask): Promise<KnownVoice | HeardVoice> {
  if ('kept' in task) return decodeHeard(new Uint8Array(await (await fetch(task.kept)).arrayBuffer()));
  if ('sound' in task) return listenTo(task.sound, task.part);
  const heard = joinHeard(task.heard);
  return { profile: profileOf(heard), bytes: encodeHeard(heard) };
}

function buffersOf(report: KnownVoice | HeardVoice): ArrayBuffer[] {
  const { peaks, energies } = 'profile' in report ? report.profile : report;
  return [peaks.buffer, energies.buffer];
}
