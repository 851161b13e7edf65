import { execFile } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { WantedFilmPart } from '@kite-trail/core/contract/film';
import type { LessonDocument } from '@kite-trail/core/contract/lesson';
import { Camera } from '@kite-trail/core/film/camera';
import { drawnCaption, filmParts, shotsOf } from '@kite-trail/core/film/frames';
import { FILM_CODECS, pictureSize, USUAL_FILM, type FilmSettings } from '@kite-trail/core/film/settings';
import { encodePayload } from '@kite-trail/core/formats/payload';
import { InkPoints } from '@kite-trail/core/ink/points';
import type { AssetId, CaptionId, PageId, PieceId } from '@kite-trail/core/lesson/ids';
import type { Mark } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage, type Page } from '@kite-trail/core/lesson/page';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { sceneOf } from '@kite-trail/core/lesson/scene';
import { Timeline } from '@kite-trail/core/trail/timeline';
import { createCanvas } from '@napi-rs/canvas';
import { beforeAll, describe, expect, it } from 'vitest';
import { codecsOf, removeLeftOver } from './encoder';
import { json, messageOf, testSchool, uploaded } from '../testing';

// Meanwhile the server goes on: a connection it could not keep up would be gone when it is used next.
const run = promisify(execFile);
const { school, call } = testSchool();
const PAGE = wideSquaredPage('page-of-knots' as PageId);
const LENGTH = 12 * 48_000;
const SMALL: FilmSettings = { ...USUAL_FILM, sizePx: 480, quality: 'best' };
const CUES = [{ id: 'caption-of-knots' as CaptionId, startSamples: 96_000, endSamples: 192_000, text: 'Узел — 結び' }];

/** A line across the page. */
function line(n: number): Mark {
  const points = InkPoints.from(
    Array.from({ length: 120 }, (_, i) => ({ xPt: 20 + i * 4, yPt: 40 + n * 60, pressure: 0.7, sinceMs: i * 8 })),
  );
  const pen = { kind: 'pen', color: '#1f2a44', widthPt: 4 } as const;
  const stroke = newStroke({ id: `stroke-${n}` as PieceId, z: n, pen, points });
  return { kind: 'ink', atSamples: 24_000 + n * 120_000, page: PAGE.id, stroke };
}
const trail = { lengthSamples: LENGTH, marks: [0, 1, 2, 3].map(line) };
const shown = (page: Page) => ({ base: sceneOf([{ page, pieces: [] }]), trail });
const timeline = new Timeline(shown(PAGE).base, trail);

let lesson: LessonDocument;
let payload: AssetId;

beforeAll(async () => {
  lesson = await json<LessonDocument>(call('POST', '/lessons', { title: 'Knots' }));
  payload = await uploaded(call, encodePayload(shown(PAGE)));
});

const ask = (wanted: WantedFilmPart) => call('POST', `/lessons/${lesson.id}/film-parts`, wanted);
const wanted = (settings: FilmSettings, more: Partial<WantedFilmPart> = {}): WantedFilmPart => {
  const [part] = filmParts(timeline, settings.framesPerSecond, []);
  return { payload, settings, shows: { kind: 'frames', ...part, frames: [...part.frames], cues: [] }, ...more };
};

/** What an answer's film is, by ffprobe and ffmpeg: when its pictures are shown, which are key frames, and their planes. */
async function watched(answer: Response, settings: FilmSettings) {
  expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'video/mp4']);
  const file = join(mkdtempSync(join(tmpdir(), 'kite-trail-film-')), 'part.mp4');
  writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
  const entries = ['-show_entries', 'packet=pts_time,flags', '-show_streams'];
  const { stdout: told } = await run('ffprobe', ['-v', 'error', ...entries, '-of', 'json', file]);
  const said = JSON.parse(told) as {
    packets: { pts_time: string; flags: string }[];
    streams: Record<string, string>[];
  };
  const args = ['-v', 'error', '-i', file, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-'];
  const { stdout: planes } = await run('ffmpeg', args, { maxBuffer: 2 ** 30, encoding: 'buffer' });
  const { widthPx, heightPx } = pictureSize(settings);
  const size = (widthPx * heightPx * 3) / 2;
  return {
    stream: said.streams[0],
    fromSeconds: said.packets.map(({ pts_time }) => Number(pts_time)),
    untilSeconds: Number(said.streams[0].duration),
    keys: said.packets.flatMap(({ flags, pts_time }) => (flags.startsWith('K') ? [Number(pts_time)] : [])),
    pictures: Array.from({ length: planes.length / size }, (_, n) => planes.subarray(n * size, (n + 1) * size)),
  };
}

/** By how much two pictures differ, on average. */
function difference(one: Uint8Array, other: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < one.length; i++) sum += Math.abs(one[i] - other[i]);
  return sum / one.length;
}

describe('a part of a film that the school makes', () => {
  it.each(FILM_CODECS)('shows in %s what is painted, when it is shown', async (codec) => {
    const settings: FilmSettings = { ...SMALL, codec };
    const asked = wanted(settings);
    const film = await watched(await ask(asked), settings);
    const { widthPx, heightPx } = pictureSize(settings);
    expect([film.stream.width, film.stream.height, film.stream.pix_fmt]).toEqual([widthPx, heightPx, 'yuv420p']);
    expect([film.stream.color_space, film.stream.color_range]).toEqual(['bt709', 'tv']);
    const [part] = filmParts(timeline, settings.framesPerSecond);
    const shots = [...shotsOf(part, timeline, settings)];
    expect(film.fromSeconds).toEqual(shots.map(({ fromSeconds }) => expect.closeTo(fromSeconds, 3)));
    expect(film.untilSeconds).toBeCloseTo(part.untilSeconds, 3);
    expect(film.keys[0]).toBe(0);
    expect(film.keys.length).toBeGreaterThan(1);
    expect(film.pictures).toHaveLength(shots.length);
    const surface = createCanvas(widthPx, heightPx).getContext('2d');
    const images = { find: () => null, gather: async () => {} };
    const camera = new Camera(surface, { widthPx, heightPx }, settings, images);
    for (const [n, { moment }] of shots.entries()) {
      await camera.take(moment, '');
      expect(difference(film.pictures[n], camera.picture.bytes)).toBeLessThan(1.5);
    }
    // It is known what the last one shows that the first one does not.
    expect(difference(film.pictures[0], film.pictures.at(-1)!)).toBeGreaterThan(1.5);
  });

  it('begins at 0 s wherever it is from', async () => {
    const [, second] = filmParts(timeline, 30, [], 20);
    const shows = { kind: 'frames' as const, ...second, frames: [...second.frames], cues: [] };
    const film = await watched(await ask(wanted(SMALL, { shows })), SMALL);
    const [from] = second.frames;
    expect(film.fromSeconds[0]).toBe(0);
    expect(film.untilSeconds).toBeCloseTo(second.untilSeconds - from / 30, 3);
  });

  it('has captions below the page while they are said, in the scripts of all who teach', async () => {
    const settings: FilmSettings = { ...SMALL, captions: 'drawn' };
    const [part] = filmParts(timeline, 30, [{ fromSamples: 96_000, toSamples: 192_000 }]);
    const shows = { kind: 'frames' as const, ...part, frames: [...part.frames], cues: CUES };
    const film = await watched(await ask(wanted(settings, { shows })), settings);
    const { widthPx, heightPx } = pictureSize(settings);
    const brightest = film.pictures.map((picture) =>
      Math.max(...picture.subarray(widthPx * Math.round(heightPx * 0.87), widthPx * heightPx)),
    );
    const isSaid = film.fromSeconds.map((seconds) => drawnCaption(CUES, seconds) !== '');
    expect(new Set(isSaid)).toEqual(new Set([true, false]));
    expect(brightest.map((luma) => luma > 150)).toEqual(isSaid);
  });

  it('is the lesson’s name, for three seconds', async () => {
    const film = await watched(await ask(wanted(SMALL, { shows: { kind: 'title', title: 'Knots' } })), SMALL);
    expect([film.fromSeconds, film.untilSeconds]).toEqual([[0], expect.closeTo(3, 3)]);
    const { widthPx, heightPx } = pictureSize(SMALL);
    expect(film.pictures[0].subarray(0, widthPx * heightPx).some((luma) => luma > 200)).toBe(true);
  });

  it('is not made of what has not arrived, or is no lesson, and says so', async () => {
    const missing = await ask(wanted(SMALL, { payload: 'a'.repeat(64) as AssetId }));
    expect([missing.status, (await json<{ code: string }>(missing)).code]).toEqual([409, 'parts-missing']);
    const odd = await ask(wanted(SMALL, { payload: await uploaded(call, Buffer.from('knots')) }));
    expect(odd.status).toBe(400);
    const other = await school.server.signedIn('other@example.org');
    const own = await json<LessonDocument>(other('POST', '/lessons', { title: 'Mine' }));
    // What somebody else has sent is nobody's who knows only its name.
    expect((await other('POST', `/lessons/${own.id}/film-parts`, wanted(SMALL))).status).toBe(409);
  });

  it.each([
    ['of frames that the lesson does not have', { frames: [0, 900] }],
    ['that ends before its last frame', { untilSeconds: 0.1 }],
    ['whose frames go back', { frames: [3, 2] }],
    ['without a frame', { frames: [] }],
    ['of too many frames', { frames: Array.from({ length: 201 }, (_, n) => n) }],
  ])('is not one %s', async (_, odd) => {
    const { shows, ...asked } = wanted(SMALL);
    expect((await ask({ ...asked, shows: { ...shows, ...odd } as WantedFilmPart['shows'] })).status).toBe(400);
  });

  it('waits for the picture of a PDF’s page that nobody has drawn yet', async () => {
    const sheet = { asset: 'b'.repeat(64) as AssetId, pageIndex: 0, widthPt: 600, heightPt: 400 };
    const bytes = encodePayload(shown({ ...PAGE, sheet } as Page));
    const answer = await ask(wanted(SMALL, { payload: await uploaded(call, bytes) }));
    expect(answer.status).toBe(409);
    expect(await messageOf(answer)).toMatch(/cannot be loaded just now/);
  });
});

describe('a program that encodes', () => {
  it('makes what it has encoders for, and nothing where it is not there', async () => {
    expect(await json(call('GET', '/films/codecs'))).toEqual(await codecsOf('ffmpeg'));
    expect(await codecsOf('ffmpeg')).toEqual([...FILM_CODECS]);
    expect(await codecsOf('no-such-program')).toEqual([]);
    const odd = join(mkdtempSync(join(tmpdir(), 'kite-trail-film-')), 'encoder');
    writeFileSync(odd, '#!/bin/sh\necho " V....D libx264 H.264"\n');
    chmodSync(odd, 0o700);
    expect(await codecsOf(odd)).toEqual(['avc']);
  });

  it('leaves nothing for good where it was ended from outside', async () => {
    const [left, now] = [0, 1].map(() => mkdtempSync(join(tmpdir(), 'kite-trail-film-')));
    const hoursAgo = new Date(Date.now() - 2 * 3600 * 1000);
    utimesSync(left, hoursAgo, hoursAgo);
    expect(await removeLeftOver()).toBeGreaterThan(0);
    expect([existsSync(left), existsSync(now)]).toEqual([false, true]);
  });
});
