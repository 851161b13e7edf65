import { SOUND_TYPES, type SoundCodec } from '@kite-trail/core/film/sound';
import { HIGHEST_PEAK_DBTP, hottestOf, type Mastering } from '@kite-trail/core/sound/mastering';
import type { Programme } from '@kite-trail/core/trail/programme';
import { proxy, type Remote } from 'comlink';
import { SharedMaking } from './shared-making';
import { privateFile, privateNames, removePrivate, wholePrivateFile, type PrivatePath } from '../workers/private-files';
import type { SoundTask } from '../workers/sound/programme-sound';
import type { SoundWorker } from '../workers/sound/sound.worker';
import SoundFileWorker from '../workers/sound/sound.worker?worker';
import type { SoundSources } from '../workers/sound/take-sound-reader';
import type { Told } from '../workers/told';
import { withWorker } from '../workers/with-worker';

/** A programme with its voices, and how it is mastered under a ceiling; the usual one where none is given. */
export interface ServedSound {
  /** Sounds of which this is the same sound the same. */
  alike: string;
  programme: Programme;
  voices: SoundSources;
  masteringUnder(ceilingDb?: number): Mastering;
}

/** Meters differ by as much. */
const MARGIN_DB = 0.3;
/** Where nothing here can decode what is encoded, peaks are kept so low that nothing was seen to lift them above −1 dBTP. */
export const UNCHECKED_CEILING_DBTP = -7;
const ROUNDS = 3;

const FOLDER = 'sounds';
/** A lesson's sound is wanted again for its link, its film, and its sound alone. */
const MOST_KEPT = 4;
/** What is read just now, here or in another window, is not that old. */
const KEPT_FOR_MS = 24 * 60 * 60 * 1000;

/** What is small enough to be made in memory, and kept. */
type PackedCodec = Exclude<SoundCodec, 'pcm-s16'>;

/** Sounds that are being made. */
const going = new Map<string, SharedMaking>();

/** The ceiling that is lower by what a peak, once it is encoded and decoded, is too high. */
const lowered = (ceilingDb: number, peakDb: number): number => ceilingDb - (peakDb - HIGHEST_PEAK_DBTP + MARGIN_DB);

/**
 * How a programme is mastered for those who get it encoded: where it is loudest it is encoded and decoded for trial, and the
 * ceiling lowered by what that adds to its peaks.
 */
async function servedMastering(
  worker: Remote<SoundWorker>,
  { programme, voices, masteringUnder }: ServedSound,
  codec: PackedCodec,
): Promise<Mastering> {
  let mastering = masteringUnder();
  for (let round = 0; round < ROUNDS && mastering.ceilingDb !== null && mastering.hottest.length > 0; round++) {
    const peakDb = await worker.peakOf({ programme: hottestOf(programme, mastering), voices, mastering, codec });
    if (peakDb === null) return masteringUnder(UNCHECKED_CEILING_DBTP);
    if (peakDb <= HIGHEST_PEAK_DBTP - MARGIN_DB) break;
    mastering = masteringUnder(lowered(mastering.ceilingDb, peakDb));
  }
  return mastering;
}

/**
 * The file of a programme's sound for a link or a film, no peak of which passes −1 dBTP: all of it is decoded and measured. It is made
 * once, and kept on this device for whatever else is made of the programme.
 * @throws DOMException `AbortError` when it is given up
 */
export async function soundFileOf(sound: ServedSound, codec: PackedCodec, told: Told): Promise<Blob> {
  const path: PrivatePath = [FOLDER, `${await nameOf(sound)}.${codec}`];
  const key = `${codec} ${sound.alike}`;
  if (!going.has(key)) {
    const kept = await wholePrivateFile(path);
    if (kept) return kept.slice(0, kept.size, SOUND_TYPES[codec]);
  }
  let making = going.get(key);
  if (!making) {
    const begun = new SharedMaking((shared) =>
      makingSound(shared, (worker, onDone) => checkedSound(worker, sound, codec, path, onDone)),
    );
    going.set(key, begun);
    begun.onOver(() => {
      if (going.get(key) === begun) going.delete(key);
      void makeRoom();
    });
    making = begun;
  }
  return making.wantedBy(told);
}

/**
 * A programme's sound as it is, a WAV: as large as it is, it is written onto this device.
 * @throws DOMException `AbortError` when it is given up, `QuotaExceededError` where there is no room for it
 */
export function wavFileOf(
  { programme, voices, masteringUnder }: ServedSound,
  path: PrivatePath,
  told: Told,
): Promise<Blob> {
  const task: SoundTask = { programme, voices, mastering: masteringUnder(), codec: 'pcm-s16' };
  return makingSound(told, (worker, onDone) => worker.write(task, path, onDone));
}

/** Nothing is kept that has not been found to be good. */
async function checkedSound(
  worker: Remote<SoundWorker>,
  sound: ServedSound,
  codec: PackedCodec,
  path: PrivatePath,
  onDone: (done: number) => void,
): Promise<Blob> {
  const { programme, voices, masteringUnder } = sound;
  let mastering = await servedMastering(worker, sound, codec);
  for (let round = 0; ; round++) {
    const { file, peakDb } = await worker.make({ programme, voices, mastering, codec }, onDone);
    const isHigh = peakDb !== null && peakDb > HIGHEST_PEAK_DBTP;
    if (!isHigh || mastering.ceilingDb === null || round === ROUNDS) {
      await worker.keep(path);
      return file;
    }
    mastering = masteringUnder(lowered(mastering.ceilingDb, peakDb));
  }
}

const makingSound = (
  told: Told,
  make: (worker: Remote<SoundWorker>, onDone: (done: number) => void) => Promise<Blob>,
): Promise<Blob> =>
  withWorker<SoundWorker, Blob>(
    new SoundFileWorker(),
    (worker) => make(worker, proxy(told.onDone ?? (() => {}))),
    told,
  );

/** Where nothing can be kept, as on insecure addresses, it is of no use. */
async function nameOf({ alike }: ServedSound): Promise<string> {
  if (!globalThis.crypto?.subtle) return 'sound';
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', new TextEncoder().encode(alike)));
  return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Removes the sounds that were made longest ago. */
async function makeRoom(): Promise<void> {
  const names = (await privateNames([FOLDER])).filter((name) => !name.endsWith('.whole'));
  const madeMs = async (name: string) => (await privateFile([FOLDER, name]))?.lastModified ?? Infinity;
  const files = await Promise.all(names.map(async (name) => ({ name, madeMs: await madeMs(name) })));
  const spare = files.sort((a, b) => b.madeMs - a.madeMs).slice(MOST_KEPT);
  for (const one of spare) if (one.madeMs < Date.now() - KEPT_FOR_MS) await removePrivate([FOLDER, one.name]);
}
