import { execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FilmSettings } from '@kite-trail/core/film/settings';
import { shownPage, sceneOf } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import { NO_IMAGES } from '@kite-trail/core/paint/picture';
import { fitPage } from '@kite-trail/core/paint/surface';
import { CLOCK_HZ } from '@kite-trail/core/trail/clock';
import { differenceBetween } from '@kite-trail/core/trail/difference';
import { Timeline, type Moment } from '@kite-trail/core/trail/timeline';
import { isEmptyRect } from '@kite-trail/core/lesson/rect';
import { recordedTake } from '@kite-trail/demo/record';
import { preparedPages } from '@kite-trail/demo/teaching/script';
import { tide } from '@kite-trail/demo/teaching/tide';
import type { School } from '@kite-trail/e2e/support/school';
import { decodeFrames, decodeSound } from '@kite-trail/e2e/support/video';
import { createCanvas } from '@napi-rs/canvas';
import { exportInBrowser } from './export-in-browser';
import { rounded } from './figures';
import { paintFrames, sizeAtSameSsim } from './size-at-same-ssim';

const SIZE = { widthPx: 1280, heightPx: 720 };
const FULL_HD = { widthPx: 1920, heightPx: 1080 };
const FRAMES_PER_SECOND = 30;
/** The baseline is slow; this much of the lesson tells its speed. */
const BASELINE_SECONDS = 40;

/** Exports the demo's tide lesson as a teacher does, and the plain way beside it. */
export async function benchExport(school: School): Promise<Record<string, number>> {
  const { marks, lengthSamples, sound } = recordedTake(tide);
  const timeline = new Timeline(sceneOf(preparedPages(tide)), { lengthSamples, marks });
  const lengthSeconds = lengthSamples / CLOCK_HZ;
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-bench-'));
  const exported = await exportInBrowser(school, tide.title, folder);
  const file = join(folder, `${tide.title}.mp4`);
  const times = lengthSeconds / exported.seconds;
  // Each into a folder of its own: they have one name.
  const asked = async (settings: Partial<FilmSettings>) => {
    const own = mkdtempSync(join(tmpdir(), 'kite-trail-bench-'));
    const times = lengthSeconds / (await exportInBrowser(school, tide.title, own, settings)).seconds;
    return { times, file: join(own, readdirSync(own)[0]) };
  };
  const small = await asked({ codec: 'av1' });
  const large = await asked({ sizePx: 1080 });
  const baseline = BASELINE_SECONDS / (await plainWay(timeline, BASELINE_SECONDS));
  const painted = join(folder, 'painted.mkv');
  await paintFrames(timeline, painted);
  return {
    export_720p_x_realtime: rounded(times),
    export_peak_mb: rounded(Math.max(...exported.memoryMb), 0),
    export_av_offset_ms: rounded(offsetMs(file, sound, folder, timeline)),
    // The baseline's own encoder, and, for what more time would give, its usual preset.
    export_size_vs_x264_at_same_ssim: rounded(sizeAtSameSsim(file, painted, folder, 'ultrafast')),
    export_size_vs_x264_medium_at_same_ssim: rounded(sizeAtSameSsim(file, painted, folder, 'medium')),
    export_av1_size_vs_x264_medium_at_same_ssim: rounded(sizeAtSameSsim(small.file, painted, folder, 'medium')),
    export_file_mb: rounded(readFileSync(file).length / 1e6),
    export_x264_ultrafast_x_realtime: rounded(baseline),
    export_vs_x264_ultrafast: rounded(times / baseline),
    export_av1_vs_x264_ultrafast: rounded(small.times / baseline),
    // Both at 1920 × 1080.
    export_1080p_vs_x264_ultrafast: rounded(
      large.times / (BASELINE_SECONDS / (await plainWay(timeline, BASELINE_SECONDS, FULL_HD))),
    ),
  };
}

/** Every frame painted, read back whole and encoded by ffmpeg's fastest x264. @returns seconds it took */
async function plainWay(timeline: Timeline, lengthSeconds: number, picture = SIZE): Promise<number> {
  const startMs = performance.now();
  const size = `${picture.widthPx}x${picture.heightPx}`;
  const input = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', size, '-r', String(FRAMES_PER_SECOND), '-i', '-'];
  const output = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-f', 'mp4', '-y', '/dev/null'];
  const ffmpeg = spawn('ffmpeg', ['-v', 'error', ...input, ...output], { stdio: ['pipe', 'inherit', 'inherit'] });
  const ended = once(ffmpeg, 'exit');
  const surface = createCanvas(picture.widthPx, picture.heightPx).getContext('2d');
  let last: Moment | null = null;
  for (let frame = 0; frame < lengthSeconds * FRAMES_PER_SECOND; frame++) {
    const moment = timeline.at((frame * CLOCK_HZ) / FRAMES_PER_SECOND);
    const state = shownPage(moment.scene);
    const difference = last ? differenceBetween(last, moment) : 'whole';
    last = moment;
    if (difference === 'whole' || !isEmptyRect(difference)) {
      const region = difference === 'whole' ? undefined : difference;
      paintPage(surface, state, fitPage(state.page, picture), NO_IMAGES, moment, region);
    }
    const { data } = surface.getImageData(0, 0, picture.widthPx, picture.heightPx);
    if (!ffmpeg.stdin.write(Buffer.from(data.buffer))) await once(ffmpeg.stdin, 'drain');
  }
  ffmpeg.stdin.end();
  await ended;
  return (performance.now() - startMs) / 1000;
}

/**
 * How far sound and ink of the file have moved against each other: the shift of the sound, found by correlation with
 * the narration that went in, less the shift of the ink, found by when the page turn shows.
 */
function offsetMs(file: string, sound: Uint8Array, folder: string, timeline: Timeline): number {
  const narration = join(folder, 'narration.ogg');
  execFileSync('tee', [narration], { input: sound, stdio: ['pipe', 'ignore', 'inherit'] });
  const hz = 8000;
  const soundShift = shiftOf(decodeSound(narration, hz), decodeSound(file, hz), hz);
  const turn = timeline.trail.marks.find((mark) => mark.kind === 'turn' && mark.atSamples > 0)!;
  const frames = decodeFrames(file, FRAMES_PER_SECOND, { width: 160, height: 90 });
  const due = Math.ceil((turn.atSamples / CLOCK_HZ) * FRAMES_PER_SECOND);
  const differs = (a: Uint8Array, b: Uint8Array) => a.reduce((sum, value, i) => sum + Math.abs(value - b[i]), 0);
  let shown = due;
  let most = 0;
  for (let frame = due - 15; frame <= due + 15; frame++) {
    const change = differs(frames[frame], frames[frame - 1]);
    if (change > most) [most, shown] = [change, frame];
  }
  return soundShift * 1000 - ((shown - due) / FRAMES_PER_SECOND) * 1000;
}

/** By how many seconds `later` follows `first`, within a tenth of a second: where their product is largest. */
function shiftOf(first: Float32Array, later: Float32Array, hz: number): number {
  let best = 0;
  let most = -Infinity;
  for (let shift = -hz / 10; shift <= hz / 10; shift++) {
    let product = 0;
    for (let i = hz; i < hz * 21; i++) product += first[i] * later[i + shift];
    if (product > most) [most, best] = [product, shift];
  }
  return best / hz;
}
