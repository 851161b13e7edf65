import type { FilmChapter } from './film-chapter';

const MOST_CHAPTERS = 999;

/** Chapters as comments of an Ogg file (Xiph's "Chapter Extension" for Vorbis comments): a time and a name each, numbered from 1. */
export function vorbisChapters(chapters: readonly FilmChapter[]): Record<string, string> {
  return Object.fromEntries(
    chapters.slice(0, MOST_CHAPTERS).flatMap(({ startSeconds, title }, n) => {
      const key = `CHAPTER${String(n + 1).padStart(3, '0')}`;
      return [
        [key, timeText(startSeconds)],
        [`${key}NAME`, title],
      ];
    }),
  );
}

function timeText(seconds: number): string {
  const ms = Math.round(seconds * 1000);
  const two = (value: number) => String(Math.floor(value)).padStart(2, '0');
  const time = [ms / 3_600_000, (ms / 60_000) % 60, (ms / 1000) % 60].map(two).join(':');
  return `${time}.${String(ms % 1000).padStart(3, '0')}`;
}
