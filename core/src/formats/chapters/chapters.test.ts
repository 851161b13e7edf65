import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FormatError } from '../bytes';
import { utf8 } from '../utf8';
import { mp4ChapterBytes, withMp4Chapters } from './in-mp4';
import { vorbisChapters } from './in-vorbis';
import { webmChapterBytes, webmChapterPatches } from './in-webm';

const chapter = fc.record({
  startSeconds: fc.double({ min: 0, max: 36_000, noNaN: true }),
  title: fc.string({ unit: 'binary', maxLength: 400 }),
});
const chapters = fc.array(chapter, { maxLength: 300 });

describe('a text in UTF-8', () => {
  it('has the bytes that the platform gives it', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(utf8(text)).toEqual(new TextEncoder().encode(text));
      }),
    );
    expect(utf8('\ud800')).toEqual(new TextEncoder().encode('\ud800'));
  });
});

/** A movie box with a header of nothing, and user data where asked for. */
function movie(userData: string | null): Uint8Array {
  const box = (name: string, body: Uint8Array) =>
    Uint8Array.of(0, 0, (body.length + 8) >> 8, (body.length + 8) & 255, ...utf8(name), ...body);
  const inside = [
    box('mvhd', new Uint8Array(20)),
    ...(userData === null ? [] : [box('udta', box('meta', utf8(userData)))]),
  ];
  return box('moov', Uint8Array.from(inside.flatMap((one) => [...one])));
}

describe('chapters in an MP4', () => {
  it('are put beside what is there, whatever they are called, in no more than was told', () => {
    fc.assert(
      fc.property(chapters, fc.option(fc.constant('about it')), (given, userData) => {
        const before = movie(userData);
        const after = withMp4Chapters(before, given);
        expect(new DataView(after.buffer).getUint32(0)).toBe(after.length);
        expect(after.length - before.length).toBeLessThanOrEqual(mp4ChapterBytes(given));
        const text = String.fromCharCode(...after);
        expect(text.match(/chpl/g)).toHaveLength(1);
        expect(text.match(/udta/g)).toHaveLength(1);
        if (userData) expect(text).toContain(userData);
      }),
    );
  });

  it('are refused where there is no movie box', () => {
    expect(() => withMp4Chapters(new Uint8Array(4), [])).toThrow(FormatError);
    expect(() => withMp4Chapters(Uint8Array.of(0, 0, 0, 9, ...utf8('moov'), 0), [])).toThrow(FormatError);
  });
});

describe('chapters in a WebM', () => {
  const size = (bytes: number) =>
    Uint8Array.of(0x08, bytes >> 24, (bytes >> 16) & 255, (bytes >> 8) & 255, bytes & 255);
  const element = (id: readonly number[], body: Uint8Array) => Uint8Array.of(...id, ...size(body.length), ...body);
  const ATTACHMENTS = [0x19, 0x41, 0xa4, 0x69];

  /** The head of a file with an attachment of so many bytes. */
  function head(attached: number): Uint8Array {
    const seek = element([0x11, 0x4d, 0x9b, 0x74], Uint8Array.from(ATTACHMENTS));
    const attachments = element(ATTACHMENTS, new Uint8Array(attached));
    const cluster = element([0x1f, 0x43, 0xb6, 0x75], new Uint8Array(10));
    const inside = Uint8Array.of(...seek, ...attachments, ...cluster);
    return Uint8Array.of(
      ...element([0x1a, 0x45, 0xdf, 0xa3], new Uint8Array(4)),
      ...element([0x18, 0x53, 0x80, 0x67], inside),
    );
  }

  it('take the place of what was attached for them, to the byte, and are named where others look', () => {
    fc.assert(
      fc.property(chapters, fc.integer({ min: 9, max: 200 }), (given, more) => {
        const before = head(webmChapterBytes(given) + more);
        const after = before.slice();
        for (const { at, bytes } of webmChapterPatches(before, given)) after.set(bytes, at);
        const has = (id: number[]) => Buffer.from(after).includes(Buffer.from(id));
        expect([after.length, has(ATTACHMENTS), has([0x10, 0x43, 0xa7, 0x70])]).toEqual([before.length, false, true]);
        expect(Buffer.from(after).includes(Buffer.from(element([0x1f, 0x43, 0xb6, 0x75], new Uint8Array(10))))).toBe(
          true,
        );
      }),
      { numRuns: 30 },
    );
  });

  it('are refused where there is no room', () => {
    expect(() => webmChapterPatches(head(0), [{ startSeconds: 0, title: 'Tides' }])).toThrow(FormatError);
    expect(() => webmChapterPatches(new Uint8Array(9), [])).toThrow(FormatError);
  });
});

describe('chapters in an Ogg file', () => {
  it('are numbered, with their times', () => {
    const given = [
      { startSeconds: 0, title: 'Tides' },
      { startSeconds: 3_723.5, title: 'Springs, neaps' },
    ];
    expect(vorbisChapters(given)).toEqual({
      CHAPTER001: '00:00:00.000',
      CHAPTER001NAME: 'Tides',
      CHAPTER002: '01:02:03.500',
      CHAPTER002NAME: 'Springs, neaps',
    });
  });
});
