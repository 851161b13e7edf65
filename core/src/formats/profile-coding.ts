import { NOISE_BINS, type NoisePart } from '../sound/noise';
import type { HeardVoice } from '../sound/profile';
import { ByteReader, ByteWriter, FormatError } from './bytes';
import { hasMagic, MAGIC, readMagic, writeMagic } from './magic';

const VERSION = 3;
/** Up to this version, the version alone came first. */
const LAST_WITHOUT_MAGIC = 2;
/** Powers are kept as hundredths of a decibel above this. */
const LEAST_DB = -150;
const STEPS_PER_DB = 100;
/** The first version told the noise of all of a take, from so many frames at most. */
const FIRST_VERSION_FRAMES = 480;

/** Writes what was heard of a take's voice: about 40 kB a minute, half of which compresses away. */
export function encodeHeard({ peaks, energies, noise }: HeardVoice): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  writeMagic(out, MAGIC.profile, VERSION);
  out.block(peaks);
  out.block(bytesOf(Uint16Array.from(energies, stepsOf)));
  out.unsigned(noise.length);
  for (const { frames, power } of noise) {
    out.unsigned(frames);
    out.block(bytesOf(Uint32Array.from(power, stepsOf)));
  }
  return out.finish();
}

/** Reads it. @throws FormatError */
export function decodeHeard(bytes: Uint8Array): HeardVoice {
  const from = new ByteReader(bytes);
  const isNamed = hasMagic(bytes, MAGIC.profile);
  const version = isNamed ? readMagic(from, MAGIC.profile, VERSION) : from.unsigned();
  if (!isNamed && version > LAST_WITHOUT_MAGIC) throw damagedProfile();
  const peaks = new Uint8Array(from.block());
  const energies = Float32Array.from(new Uint16Array(wholeOf(from.block(), 2)), powerOf);
  const noise = version === 1 ? readNoiseOfAll(from) : Array.from({ length: from.count() }, () => readNoise(from));
  return { peaks, energies, noise };
}

const readNoise = (from: ByteReader): NoisePart => ({ frames: from.unsigned(), power: readSpectrum(from.block()) });

function readNoiseOfAll(from: ByteReader): NoisePart[] {
  const block = from.block();
  return block.length === 0 ? [] : [{ frames: FIRST_VERSION_FRAMES, power: readSpectrum(block) }];
}

function readSpectrum(block: Uint8Array): Float32Array<ArrayBuffer> {
  const power = Float32Array.from(new Uint32Array(wholeOf(block, 4)), powerOf);
  if (power.length !== NOISE_BINS) throw damagedProfile();
  return power;
}

function stepsOf(power: number): number {
  const db = power > 0 ? 10 * Math.log10(power) : LEAST_DB;
  return Math.round((Math.max(LEAST_DB, db) - LEAST_DB) * STEPS_PER_DB);
}

const powerOf = (steps: number): number => (steps === 0 ? 0 : 10 ** ((steps / STEPS_PER_DB + LEAST_DB) / 10));

/** All machines this runs on put the low byte first (as WebAssembly asks of them). */
const bytesOf = (values: Uint16Array | Uint32Array): Uint8Array => new Uint8Array(values.buffer);

function wholeOf(block: Uint8Array, bytesEach: number): ArrayBuffer {
  if (block.length % bytesEach !== 0) throw damagedProfile();
  return new Uint8Array(block).buffer;
}

const damagedProfile = () => new FormatError('This profile of a voice is damaged.');
