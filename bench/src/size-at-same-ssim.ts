import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { NO_IMAGES } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { createCanvas } from '@napi-rs/canvas';

const SIZE = { widthPx: 1280, heightPx: 720 };
const FRAMES_PER_SECOND = 30;
/** This much of the film tells. */
const SECONDS = 30;
/** Films are as alike as that to be compared. */
const SSIM_MARGIN = 0.005;
/** x264's steps of quality, from the best. */
const [BEST_CRF, WORST_CRF] = [10, 45];
/** As our films are: BT.709 in limited range. */
const IN_OUR_COLOURS = 'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p';

/**
 * How large a film's pictures are, compared with x264's (one key frame every five seconds as ours) when those are as much like the
 * painted frames: SSIM of Wang, Bovik, Sheikh and Simoncelli (2004), as ffmpeg's filter computes it.
 * @param painted every frame as `paintFrames` keeps it
 */
export function sizeAtSameSsim(file: string, painted: string, folder: string, preset: 'ultrafast' | 'medium'): number {
  const ours = ssimOf(file, painted);
  let best = { difference: Infinity, bytes: 0 };
  let [low, high] = [BEST_CRF, WORST_CRF];
  while (low <= high) {
    const crf = Math.floor((low + high) / 2);
    const other = join(folder, `x264-${preset}-${crf}.mp4`);
    const coded = ['-c:v', 'libx264', '-preset', preset, '-crf', String(crf), '-g', String(5 * FRAMES_PER_SECOND)];
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', painted, ...coded, other]);
    const ssim = ssimOf(other, painted);
    const difference = Math.abs(ssim - ours);
    if (difference < best.difference) best = { difference, bytes: pictureBytes(other) };
    // The better it is, the less it may be quantised.
    if (ssim > ours) low = crf + 1;
    else high = crf - 1;
  }
  if (best.difference > SSIM_MARGIN)
    throw new Error(`x264 comes no closer than ${best.difference} to our SSIM of ${ours}.`);
  return pictureBytes(file) / best.bytes;
}

/** Every frame as it is painted, kept without loss. */
export async function paintFrames(timeline: Timeline, file: string): Promise<void> {
  const size = `${SIZE.widthPx}x${SIZE.heightPx}`;
  const input = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', size, '-r', String(FRAMES_PER_SECOND), '-i', '-'];
  const output = ['-vf', IN_OUR_COLOURS, '-c:v', 'ffv1', file];
  const child = spawn('ffmpeg', ['-v', 'error', '-y', ...input, ...output], { stdio: ['pipe', 'inherit', 'inherit'] });
  const ended = once(child, 'exit');
  const surface = createCanvas(SIZE.widthPx, SIZE.heightPx).getContext('2d');
  for (let frame = 0; frame < SECONDS * FRAMES_PER_SECOND; frame++) {
    const moment = timeline.at((frame * CLOCK_HZ) / FRAMES_PER_SECOND);
    const state = shownPage(moment.scene);
    paintPage(surface, state, fitPage(state.page, SIZE), NO_IMAGES, moment);
    const { data } = surface.getImageData(0, 0, SIZE.widthPx, SIZE.heightPx);
    if (!child.stdin.write(Buffer.from(data.buffer))) await once(child.stdin, 'drain');
  }
  child.stdin.end();
  await ended;
}

/** How much a film is like the painted frames: 1 is the same. */
function ssimOf(file: string, painted: string): number {
  const rate = `fps=${FRAMES_PER_SECOND}`;
  const filter = `[0:v]${rate},format=yuv420p[a];[1:v]${rate},format=yuv420p[b];[a][b]ssim=shortest=1`;
  const inputs = ['-t', String(SECONDS), '-i', file, '-i', painted];
  // It says so where others say what is wrong.
  const { stderr } = spawnSync('ffmpeg', ['-hide_banner', '-nostats', ...inputs, '-lavfi', filter, '-f', 'null', '-'], {
    encoding: 'utf8',
  });
  return Number(/All:([\d.]+)/.exec(stderr)![1]);
}

/** How large the pictures of a film's beginning are, without its sound. */
function pictureBytes(file: string): number {
  const packets = execFileSync(
    'ffprobe',
    ['-v', 'error', '-select_streams', 'v', '-show_entries', 'packet=pts_time,size', '-of', 'csv=p=0', file],
    { encoding: 'utf8', maxBuffer: 64 * 2 ** 20 },
  );
  return packets
    .trim()
    .split('\n')
    .map((line) => line.split(',').map(Number))
    .filter(([atSeconds]) => atSeconds < SECONDS)
    .reduce((sum, [, bytes]) => sum + bytes, 0);
}
