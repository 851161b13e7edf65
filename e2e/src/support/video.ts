import { execFileSync, spawnSync } from 'node:child_process';

const MAX_BUFFER = 1 << 30;

interface Stream {
  codec_name: string;
  codec_type: string;
  profile: string;
  width?: number;
  height?: number;
  pix_fmt?: string;
  start_time: string;
  duration: string;
}

/** What ffprobe says of a file. */
export function probe(file: string): {
  streams: Stream[];
  format: { duration: string; format_name: string; tags?: Record<string, string> };
} {
  const args = ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', file];
  return JSON.parse(execFileSync('ffprobe', args, { encoding: 'utf8' }));
}

/** The chapters that ffprobe finds in a file. */
export function chaptersOf(file: string): { startSeconds: number; title: string }[] {
  const args = ['-v', 'error', '-show_chapters', '-of', 'json', file];
  const { chapters } = JSON.parse(execFileSync('ffprobe', args, { encoding: 'utf8' })) as {
    chapters: { start_time: string; tags: { title: string } }[];
  };
  return chapters.map(({ start_time, tags }) => ({ startSeconds: Number(start_time), title: tags.title }));
}

/** What ffmpeg finds wrong with a file when it decodes all of it. */
export const complaintsAbout = (file: string): string =>
  spawnSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'null', '-'], { encoding: 'utf8' }).stderr;

/** The sound as ffmpeg decodes it, on the file's own timeline. */
export function decodeSound(file: string, hz = 48_000): Float32Array {
  const args = ['-v', 'error', '-i', file, '-vn', '-ac', '1', '-ar', String(hz), '-f', 'f32le', '-'];
  const bytes = execFileSync('ffmpeg', args, { maxBuffer: MAX_BUFFER });
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}

/** Small grey frames at an even rate, each the picture shown at that time. */
export function decodeFrames(
  file: string,
  framesPerSecond: number,
  size: { width: number; height: number },
): Uint8Array[] {
  const filter = `fps=${framesPerSecond}:round=near,scale=${size.width}:${size.height}:flags=area,format=gray`;
  const args = ['-v', 'error', '-i', file, '-an', '-vf', filter, '-f', 'rawvideo', '-'];
  const bytes = execFileSync('ffmpeg', args, { maxBuffer: MAX_BUFFER });
  const frameBytes = size.width * size.height;
  return Array.from({ length: Math.floor(bytes.length / frameBytes) }, (_, i) =>
    bytes.subarray(i * frameBytes, (i + 1) * frameBytes),
  );
}
