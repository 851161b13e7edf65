import { HIGHEST_PEAK_DBTP, hottestOf, type Mastering } from '@kite-trail/core/sound/mastering';
import type { Programme } from '@kite-trail/core/trail/programme';
import { proxy, wrap } from 'comlink';
import type { PeakReport } from '../workers/peak.worker';
import PeakWorker from '../workers/peak.worker?worker';
import { privateNames, privateFile, removePrivate, wholePrivateFile, type PrivatePath } from '../workers/private-files';
import type { SoundCodec, SoundTask } from '../workers/programme-sound';
import type { MadeSound, SoundWorker } from '../workers/sound.worker';
import SoundFileWorker from '../workers/sound.worker?worker';
import type { SoundUrls } from '../workers/take-sound-reader';
import { aborted, type Told } from '../workers/told';

/** A programme with where its voices are, and how it is mastered under a ceiling; the usual one where none is given. */
export interface ServedSound {
  /** Sounds of which this is the same sound the same. */
  alike: string;
  programme: Programme;
  urls: SoundUrls;
  masteringUnder(ceilingDb?: number): Mastering;
}

/** Meters differ by as much. */
const MARGIN_DB = 0.3;
/** Where nothing here can decode what is encoded, peaks are kept so low that nothing was seen to lift them above −1 dBTP. */
export const UNCHECKED_CEILING_DBTP = -7;
const ROUNDS = 3;

const FOLDER = 'sounds';
/** A lesson's sound is wanted again for its link, its film, and its sound alone; older ones make room. */
const MOST_KEPT = 4;
const ENDINGS: Record<SoundCodec, string> = { aac: 'm4a', opus: 'ogg', 'pcm-s16': 'wav' };
export const SOUND_TYPES: Record<SoundCodec, string> = { aac: 'audio/mp4', opus: 'audio/ogg', 'pcm-s16': 'audio/wav' };

/** Sounds that are being made. */
const going = new Map<string, Promise<Blob>>();

/** The ceiling that is lower by what a peak, once it is encoded and decoded, is too high. */
const lowered = (ceilingDb: number, peakDb: number): number => ceilingDb - (peakDb - HIGHEST_PEAK_DBTP + MARGIN_DB);

/**
 * How a programme is mastered for those who get it encoded: where it is loudest it is encoded and decoded for trial, and the
 * ceiling lowered by what that adds to its peaks.
 * @throws DOMException `AbortError` when it is given up
 */
export async function servedMastering(
  { programme, urls, masteringUnder }: ServedSound,
  codec: SoundCodec = 'aac',
  signal?: AbortSignal,
): Promise<Mastering> {
  let mastering = masteringUnder();
  for (let round = 0; round < ROUNDS && mastering.ceilingDb !== null && mastering.hottest.length > 0; round++) {
    const peakDb = await encodedPeak({ programme: hottestOf(programme, mastering), urls, mastering, codec }, signal);
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
export async function soundFileOf(sound: ServedSound, codec: SoundCodec, told: Told): Promise<Blob> {
  const path: PrivatePath = [FOLDER, `${await nameOf(sound)}.${ENDINGS[codec]}`];
  const key = `${codec} ${sound.alike}`;
  for (;;) {
    const kept = await wholePrivateFile(path);
    if (kept) return typed(kept, codec);
    const other = going.get(key);
    if (!other) break;
    // Whoever makes it may give it up.
    await Promise.race([other.catch(() => {}), aborted(told.signal)]);
  }
  const making = checkedSound(sound, codec, path, told);
  going.set(key, making);
  try {
    return typed(await making, codec);
  } finally {
    going.delete(key);
    void makeRoom(path);
  }
}

async function checkedSound(sound: ServedSound, codec: SoundCodec, path: PrivatePath, told: Told): Promise<Blob> {
  const { programme, urls, masteringUnder } = sound;
  let mastering = codec === 'pcm-s16' ? masteringUnder() : await servedMastering(sound, codec, told.signal);
  for (let round = 0; ; round++) {
    const { file, peakDb } = await soundFile({ programme, urls, mastering, codec }, path, told);
    const isHigh = peakDb !== null && peakDb > HIGHEST_PEAK_DBTP;
    if (!isHigh || mastering.ceilingDb === null || round === ROUNDS) return file;
    mastering = masteringUnder(lowered(mastering.ceilingDb, peakDb));
  }
}

/** Where nothing can be kept, as on insecure addresses, it is of no use. */
async function nameOf({ alike }: ServedSound): Promise<string> {
  if (!globalThis.crypto?.subtle) return 'sound';
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', new TextEncoder().encode(alike)));
  return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

const typed = (file: Blob, codec: SoundCodec): Blob => file.slice(0, file.size, SOUND_TYPES[codec]);

/** Removes the sounds that were made longest ago. */
async function makeRoom(except: PrivatePath): Promise<void> {
  const names = (await privateNames([FOLDER])).filter((name) =>
    Object.values(ENDINGS).some((one) => name.endsWith(`.${one}`)),
  );
  const files = await Promise.all(
    names.map(async (name) => ({ name, madeMs: (await privateFile([FOLDER, name]))?.lastModified ?? 0 })),
  );
  const old = files.sort((a, b) => b.madeMs - a.madeMs).slice(MOST_KEPT);
  for (const { name } of old.filter((one) => one.name !== except.at(-1))) await removePrivate([FOLDER, name]);
}

function encodedPeak(task: SoundTask, signal?: AbortSignal): Promise<number | null> {
  const worker = new PeakWorker();
  const peak = new Promise<number | null>((resolve, reject) => {
    worker.onerror = (event) => reject(new Error(event.message));
    worker.onmessage = ({ data }: MessageEvent<PeakReport>) =>
      'failed' in data ? reject(new Error(data.failed)) : resolve(data.peakDb);
    worker.postMessage(task);
  });
  return Promise.race([peak, aborted(signal)]).finally(() => worker.terminate());
}

function soundFile(task: SoundTask, path: PrivatePath, { signal, gate, onDone }: Told): Promise<MadeSound> {
  const worker = new SoundFileWorker();
  const remote = wrap<SoundWorker>(worker);
  const broken = new Promise<never>((_, reject) => {
    worker.onerror = (event) => reject(new Error(event.message));
  });
  const free = gate?.onHold((isHeld) => void remote.hold(isHeld));
  const made = remote.make(task, path, proxy(onDone ?? (() => {})));
  return Promise.race([made, broken, aborted(signal)]).finally(() => {
    free?.();
    worker.terminate();
  });
}
