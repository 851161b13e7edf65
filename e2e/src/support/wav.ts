import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

export const WAV_HZ = 48_000;
const narration = fileURLToPath(new URL('../../../demo/narration/tide-lesson.ogg', import.meta.url));

/** Writes mono 16-bit samples as a WAV, which can stand in for a microphone. */
export function writeWav(file: string, samples: Int16Array): void {
  const header = Buffer.alloc(44);
  header.write('RIFF', 0);
  header.writeUInt32LE(36 + samples.byteLength, 4);
  header.write('WAVEfmt ', 8);
  header.writeUInt32LE(16, 16);
  header.writeUInt16LE(1, 20);
  header.writeUInt16LE(1, 22);
  header.writeUInt32LE(WAV_HZ, 24);
  header.writeUInt32LE(WAV_HZ * 2, 28);
  header.writeUInt16LE(2, 32);
  header.writeUInt16LE(16, 34);
  header.write('data', 36);
  header.writeUInt32LE(samples.byteLength, 40);
  writeFileSync(file, Buffer.concat([header, Buffer.from(samples.buffer)]));
}

/** Writes a steady tone; seconds and hertz in whole numbers make it go on where it begins again. */
export function writeTone(file: string, seconds: number, hz: number, amplitude: number): void {
  const samples = Int16Array.from(
    { length: seconds * WAV_HZ },
    (_, i) => amplitude * 32_767 * Math.sin((2 * Math.PI * hz * i) / WAV_HZ),
  );
  writeWav(file, samples);
}

/** Writes half a minute of the demo's narration as a microphone would hear it. @param filter what ffmpeg does to it */
export function writeSpeech(file: string, filter: string): void {
  const args = ['-v', 'error', '-y', '-t', '30', '-i', narration, '-filter_complex', filter];
  execFileSync('ffmpeg', [...args, '-ac', '1', '-ar', String(WAV_HZ), '-c:a', 'pcm_s16le', file]);
}
