import { execFile, spawn } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { text } from 'node:stream/consumers';
import { promisify } from 'node:util';
import { bitsPerSecond, pictureSize, type FilmCodec, type FilmSettings } from '@kite-trail/core/film/settings';

/** What encodes each codec, by the names under which ffmpeg lists its encoders. */
const ENCODERS: Record<FilmCodec, string> = { avc: 'libx264', av1: 'libaom-av1', vp9: 'libvpx-vp9' };

/** What a program of this name can encode films as; nothing where it is not there. */
export async function codecsOf(ffmpeg: string): Promise<FilmCodec[]> {
  const listed = await promisify(execFile)(ffmpeg, ['-hide_banner', '-encoders']).catch(() => null);
  const names = new Set(listed?.stdout.split(/\s+/));
  return (Object.keys(ENCODERS) as FilmCodec[]).filter((codec) => names.has(ENCODERS[codec]));
}

/** As large as a browser's encoder would make it: constant quality, and no more bits than a film may use. */
const RATE_FACTOR = { small: 25, good: 22, best: 18 };

function encoderArguments(settings: FilmSettings): string[] {
  const most = bitsPerSecond(settings);
  switch (settings.codec) {
    case 'avc':
      // Without B-frames, frames are decoded in the order in which they are shown: that is how each is known again.
      return [
        ...['-preset', 'veryfast', '-tune', 'animation', '-bf', '0'],
        ...['-crf', String(RATE_FACTOR[settings.quality]), '-maxrate', String(most), '-bufsize', String(2 * most)],
      ];
    case 'vp9':
      return ['-deadline', 'realtime', '-cpu-used', '8', '-tune-content', 'screen', '-b:v', String(most)];
    case 'av1':
      return ['-usage', 'realtime', '-cpu-used', '8', '-b:v', String(most)];
  }
}

/** BT.709 in limited range, as the pictures are converted. */
const COLORS = ['primaries', 'trc', 'space'].flatMap((what) => [
  what === 'space' ? '-colorspace' : `-color_${what}`,
  'bt709',
]);

const FOLDERS = 'kite-trail-film-';
const LEFT_OVER_MS = 3600 * 1000;

/** Removes what is left of parts whose making was ended from outside, such as because it took too long. @returns how much it was */
export async function removeLeftOver(): Promise<number> {
  const names = (await readdir(tmpdir())).filter((name) => name.startsWith(FOLDERS));
  let removed = 0;
  for (const name of names) {
    const folder = join(tmpdir(), name);
    const changed = await stat(folder).catch(() => null);
    if (!changed || Date.now() - changed.mtimeMs < LEFT_OVER_MS) continue;
    await rm(folder, { recursive: true, force: true });
    removed++;
  }
  return removed;
}

/** What ffmpeg says of what went wrong, at most. */
const TOLD_LETTERS = 500;

/**
 * Encodes pictures by ffmpeg, each as one frame: by its place in the file it is known again.
 * @param pictures I420, in order; a picture is done with once the next is asked for
 * @param keys which of them can be decoded without those before
 * @returns a Matroska file, in which the frames follow one another at the film's rate
 * @throws Error where ffmpeg fails
 */
export async function encodePictures(
  ffmpeg: string,
  settings: FilmSettings,
  pictures: AsyncIterable<Uint8Array>,
  keys: readonly number[],
): Promise<Uint8Array<ArrayBuffer>> {
  const { framesPerSecond, codec } = settings;
  const { widthPx, heightPx } = pictureSize(settings);
  const rate = String(framesPerSecond);
  const folder = await mkdtemp(join(tmpdir(), FOLDERS));
  const file = join(folder, 'part.mkv');
  const program = spawn(ffmpeg, [
    ...['-hide_banner', '-loglevel', 'error', '-nostdin'],
    ...['-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-video_size', `${widthPx}x${heightPx}`, '-framerate', rate],
    ...['-color_range', 'tv', ...COLORS, '-i', 'pipe:0'],
    ...['-c:v', ENCODERS[codec], '-threads', '2', ...encoderArguments(settings)],
    ...['-force_key_frames', keys.map((n) => n / framesPerSecond).join(',')],
    ...['-color_range', 'tv', ...COLORS, '-f', 'matroska', file],
  ]);
  const ended = new Promise<number | null>((resolve, reject) => program.once('error', reject).once('close', resolve));
  const made = Promise.all([ended, text(program.stderr)]);
  // What ffmpeg no longer reads is told by how it ends.
  program.stdin.on('error', () => {});
  try {
    for await (const picture of pictures) {
      if (!program.stdin.writable) break;
      await new Promise((resolve) => program.stdin.write(picture, resolve));
    }
    program.stdin.end();
    const [code, said] = await made;
    if (code !== 0) throw new Error(`ffmpeg has ended with ${code}: ${said.slice(0, TOLD_LETTERS)}`);
    return new Uint8Array(await readFile(file));
  } finally {
    made.catch(() => {});
    program.kill('SIGKILL');
    await rm(folder, { recursive: true });
  }
}
