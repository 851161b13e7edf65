import { createHash } from 'node:crypto';
import { filmCodecs, type WantedFilmPart } from '@kite-trail/core/contract/film';
import { UPLOAD_PART_BYTES, uploadPartCount } from '@kite-trail/core/contract/upload';
import { filmParts, framesAtSchool } from '@kite-trail/core/film/frames';
import { USUAL_FILM } from '@kite-trail/core/film/settings';
import type { AssetId } from '@kite-trail/core/lesson/ids';
import { joinFilm, type FilmFile, type FilmPartFile } from '@kite-trail/web/workers/film/join-film';
import { StreamTarget, type StreamTargetChunk } from 'mediabunny';
import type { SharedLesson } from './lesson';
import { painted } from './paper';
import type { SchoolCalls } from './school-calls';

const COVER_WIDTH_PX = 640;

/** A video of a lesson, as the school makes it for browsers that cannot; `null` where it cannot, either. */
export async function filmOf(school: SchoolCalls, lesson: SharedLesson): Promise<Uint8Array<ArrayBuffer> | null> {
  const codecs = filmCodecs.parse(await (await school.ask('GET', '/films/codecs')).json());
  if (!codecs.includes(USUAL_FILM.codec)) return null;
  const { id, title, language, payload, timeline, captions, sound, transcript } = lesson;
  const asset = createHash('sha256').update(payload).digest('hex') as AssetId;
  for (let n = 0; n < uploadPartCount(payload.length); n++) {
    const part = payload.subarray(n * UPLOAD_PART_BYTES, (n + 1) * UPLOAD_PART_BYTES);
    await school.ask('PUT', `/uploads/${asset}/parts/${n}`, part);
  }
  const parts: FilmPartFile[] = [];
  const { framesPerSecond } = USUAL_FILM;
  for (const { frames, untilSeconds } of filmParts(timeline, framesPerSecond, [], framesAtSchool(USUAL_FILM))) {
    const shows = { kind: 'frames' as const, frames: [...frames], untilSeconds, cues: [] };
    const wanted: WantedFilmPart = { payload: asset, settings: USUAL_FILM, shows };
    const made = await school.ask('POST', `/lessons/${id}/film-parts`, wanted);
    parts.push({ file: await made.blob(), startSeconds: frames[0] / framesPerSecond, endSeconds: untilSeconds });
  }
  await school.ask('DELETE', `/uploads/${asset}`);
  const cover = new Uint8Array(await painted(timeline.end.pages[0], COVER_WIDTH_PX).encode('jpeg'));
  const file = new FilmInMemory();
  const film = { settings: USUAL_FILM, parts, sound: { file: sound, startSeconds: 0 }, title, language, cover };
  await joinFilm({ ...film, chapters: transcript.chapters, cues: captions }, file, () => {});
  return file.bytes;
}

const FIRST_ROOM_BYTES = 2 ** 20;

/** A film that is small enough to be in memory. */
class FilmInMemory implements FilmFile {
  private room = new Uint8Array(FIRST_ROOM_BYTES);
  private length = 0;

  get bytes(): Uint8Array<ArrayBuffer> {
    return this.room.slice(0, this.length);
  }

  target(): StreamTarget {
    const write = ({ data, position }: StreamTargetChunk) => this.write(data as Uint8Array<ArrayBuffer>, position);
    return new StreamTarget(new WritableStream({ write }));
  }

  read(at: number, length: number): Uint8Array<ArrayBuffer> {
    return this.room.slice(at, Math.min(this.length, at + length));
  }

  write(bytes: Uint8Array<ArrayBuffer>, at: number): void {
    const end = at + bytes.length;
    if (end > this.room.length) {
      const larger = new Uint8Array(2 * end);
      larger.set(this.room);
      this.room = larger;
    }
    this.room.set(bytes, at);
    this.length = Math.max(this.length, end);
  }
}
