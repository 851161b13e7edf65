import { SOUND_TYPES } from '@kite-trail/core/film/sound';
import { expose } from 'comlink';
import { BufferTarget } from 'mediabunny';
import { DecodedPeak } from './decoded-peak';
import { Gate } from '../gate';
import { privateFile, type PrivatePath } from '../private-files';
import { PrivateWriter } from '../private-writer';
import { encodeProgrammeSound, type SoundTask } from './programme-sound';
import { makeSoundFile } from './sound-file';

/** A programme's sound, encoded. */
export interface MadeSound {
  file: Blob;
  /** The true peak of what a decoder makes of it, in dBTP; `null` where this browser has none. */
  peakDb: number | null;
}

type OnDone = (done: number) => void;

const gate = new Gate();
let last: ArrayBuffer | null = null;

/** Makes a programme's sound one file. */
const sound = {
  /** How high the peaks of a sound are once it is encoded and decoded, in dBTP; `null` where that cannot be told. */
  async peakOf(task: SoundTask): Promise<number | null> {
    const peak = new DecodedPeak();
    await encodeProgrammeSound(task, (packet) => peak.add(packet));
    return peak.finish();
  },

  /** @param onDone hears how much is done, from 0 to 1 */
  async make(task: SoundTask, onDone: OnDone): Promise<MadeSound> {
    const target = new BufferTarget();
    const peak = new DecodedPeak();
    await makeSoundFile(task, target, peak.add.bind(peak), holding(onDone));
    last = target.buffer!;
    return { file: new Blob([last], { type: SOUND_TYPES[task.codec] }), peakDb: await peak.finish() };
  },

  /** Keeps on this device what was made last. Where there is no room for it, it is made anew when it is wanted again. */
  async keep(path: PrivatePath): Promise<void> {
    const writer = await PrivateWriter.open(path).catch(() => null);
    if (!writer || !last) return;
    try {
      writer.write(new Uint8Array(last), 0);
    } catch {
      return writer.close();
    }
    await writer.finish();
  },

  /** Writes what is too large for memory onto this device as it is made. @throws DOMException where there is no room for it */
  async write(task: SoundTask, path: PrivatePath, onDone: OnDone): Promise<Blob> {
    const writer = await PrivateWriter.open(path);
    try {
      await makeSoundFile(task, writer.target(), undefined, holding(onDone));
    } catch (error) {
      writer.close();
      throw error;
    }
    await writer.finish();
    return (await privateFile(path))!;
  },

  hold(isHeld: boolean): void {
    gate.hold(isHeld);
  },
};
export type SoundWorker = typeof sound;

const holding = (onDone: OnDone) => async (done: number) => {
  onDone(done);
  await gate.passed();
};

expose(sound);
