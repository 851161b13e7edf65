import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CLOCK_HZ, msToSamples } from '@kite-trail/core/trail/clock';
import { SPOKEN_REPLIES } from '../tasks/replies';
import { SCRIPTS } from '../teaching/all';
import { performBeats, type Script } from '../teaching/script';
import { narrationFile, timesFile } from './files';

/**
 * Speaks the scripts, or those that are named, with espeak-ng and keeps them as Opus. Run once, when a script has changed: the
 * files are committed, so that nobody needs espeak-ng or ffmpeg to see the demo.
 */
const BREATH_MS = 450;
const OPUS_BITS_PER_SECOND = 24_000;
const TEACHERS = { name: 'en-gb', pitch: 42 };

const asked = process.argv.slice(2);
const isAsked = ({ name, beats }: Script) => beats.length > 0 && (asked.length === 0 || asked.includes(name));
for (const script of [...SCRIPTS, ...SPOKEN_REPLIES].filter(isAsked)) narrate(script);

function narrate(script: Script): void {
  const folder = mkdtempSync(join(tmpdir(), 'narration-'));
  const hands = performBeats(script);
  const startsSamples: number[] = [];
  const endsSamples: number[] = [];
  const voices = script.beats.map(({ say }, i) => spoken(say, script.voice ?? TEACHERS, join(folder, `${i}.wav`)));
  let length = 0;
  voices.forEach((voice, i) => {
    startsSamples.push(length);
    endsSamples.push(length + voice.length);
    length += Math.max(voice.length, msToSamples(hands[i].lengthMs)) + msToSamples(BREATH_MS);
  });
  const whole = new Int16Array(length);
  voices.forEach((voice, i) => whole.set(voice, startsSamples[i]));
  const raw = join(folder, 'whole.raw');
  writeFileSync(raw, Buffer.from(whole.buffer));
  const input = ['-f', 's16le', '-ar', String(CLOCK_HZ), '-ac', '1', '-i', raw];
  const output = ['-c:a', 'libopus', '-b:a', String(OPUS_BITS_PER_SECOND), '-application', 'voip'];
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...input, ...output, '-bitexact', narrationFile(script.name)]);
  writeFileSync(timesFile(script.name), `${JSON.stringify({ startsSamples, endsSamples, lengthSamples: length })}\n`);
  console.log(`${script.name}: ${Math.round(length / CLOCK_HZ)} s`);
}

/** A sentence as samples at the take's clock. */
function spoken(text: string, { name, pitch }: NonNullable<Script['voice']>, file: string): Int16Array {
  execFileSync('espeak-ng', ['-v', name, '-s', '150', '-p', String(pitch), '-w', file, text]);
  const raw = `${file}.raw`;
  execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ar', String(CLOCK_HZ), '-ac', '1', '-f', 's16le', raw]);
  const bytes = readFileSync(raw);
  return new Int16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}
