import { expose } from 'comlink';
import { BufferTarget } from 'mediabunny';
import { DecodedPeak } from './decoded-peak';
import { Gate } from './gate';
import { privateFile, PrivateWriter, type PrivatePath } from './private-files';
import type { SoundTask } from './programme-sound';
import { makeSoundFile } from './sound-file';

/** A programme's sound, encoded. */
export interface MadeSound {
  file: Blob;
  /** The true peak of what a decoder makes of it, in dBTP; `null` where this browser has none. */
  peakDb: number | null;
}

const gate = new Gate();

/** Makes a programme's sound one file, kept on this device where that keeps files. */
const sound = {
  async make(task: SoundTask, path: PrivatePath, onDone: (done: number) => void): Promise<MadeSound> {
    const kept = await PrivateWriter.open(path).catch(() => null);
    const inMemory = new BufferTarget();
    const peak = new DecodedPeak();
    const progress = async (done: number) => {
      onDone(done);
      await gate.passed();
    };
    const onPacket = task.codec === 'pcm-s16' ? undefined : peak.add.bind(peak);
    try {
      await makeSoundFile(task, kept?.target() ?? inMemory, onPacket, progress);
    } catch (error) {
      kept?.close();
      throw error;
    }
    await kept?.finish();
    const file = kept ? (await privateFile(path))! : new Blob([inMemory.buffer!]);
    return { file, peakDb: task.codec === 'pcm-s16' ? null : await peak.finish() };
  },

  hold(isHeld: boolean): void {
    gate.hold(isHeld);
  },
};
export type SoundWorker = typeof sound;

expose(sound);
