import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { DEMO_FOLDER } from '../place';

const folder = new URL('narration/', DEMO_FOLDER);

export const narrationFile = (name: string): string => fileURLToPath(new URL(`${name}.ogg`, folder));
export const timesFile = (name: string): string => fileURLToPath(new URL(`${name}.json`, folder));

/** A script's narration: its Ogg Opus bytes, and when the voice of each beat begins and ends. */
export interface Narration {
  sound: Uint8Array;
  startsSamples: number[];
  endsSamples: number[];
  lengthSamples: number;
}

export function readNarration(name: string): Narration {
  return { sound: readFileSync(narrationFile(name)), ...JSON.parse(readFileSync(timesFile(name), 'utf8')) };
}
