import type { TakeProfile } from '../sound/profile';
import { speechIn } from '../sound/speech';
import { ByteReader, ByteWriter, FormatError } from './bytes';

const VERSION = 1;
/** Energies are kept as hundredths of a decibel above this. */
const LEAST_DB = -150;
const STEPS_PER_DB = 100;

/** Writes what is known of a take's voice: about 50 kB a minute, half of which compresses away. */
export function encodeProfile({ peaks, energies, noise }: TakeProfile): Uint8Array<ArrayBuffer> {
  const out = new ByteWriter();
  out.unsigned(VERSION);
  out.block(peaks);
  out.block(bytesOf(Uint16Array.from(energies, stepsOf)));
  out.block(bytesOf(Uint32Array.from(noise, (one) => stepsOf(one))));
  return out.finish();
}

/** Reads it; where somebody speaks is found anew. @throws FormatError */
export function decodeProfile(bytes: Uint8Array): TakeProfile {
  const from = new ByteReader(bytes);
  if (from.unsigned() !== VERSION) throw new FormatError('This profile of a voice was written by a newer version.');
  const peaks = new Uint8Array(from.block());
  const energies = Float32Array.from(new Uint16Array(wholeOf(from.block(), 2)), powerOf);
  const noise = Float32Array.from(new Uint32Array(wholeOf(from.block(), 4)), powerOf);
  return { peaks, energies, speech: speechIn(energies), noise };
}

function stepsOf(power: number): number {
  const db = power > 0 ? 10 * Math.log10(power) : LEAST_DB;
  return Math.round((Math.max(LEAST_DB, db) - LEAST_DB) * STEPS_PER_DB);
}

const powerOf = (steps: number): number => (steps === 0 ? 0 : 10 ** ((steps / STEPS_PER_DB + LEAST_DB) / 10));

/** All machines this runs on put the low byte first (as WebAssembly asks of them). */
const bytesOf = (values: Uint16Array | Uint32Array): Uint8Array => new Uint8Array(values.buffer);

function wholeOf(block: Uint8Array, bytesEach: number): ArrayBuffer {
  if (block.length % bytesEach !== 0) throw new FormatError('This profile of a voice is damaged.');
  return new Uint8Array(block).buffer;
}
