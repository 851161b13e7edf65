import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { InkPoints } from '../ink/points';
import type { PageId, PieceId } from '../lesson/ids';
import { wideSquaredPage } from '../lesson/page';
import { newStroke, type Piece } from '../lesson/piece';
import { sceneOf, shownPage } from '../lesson/scene';
import { base, marks, TAKE_SAMPLES } from '../testing/arbitraries';
import { Timeline } from '../trail/timeline';
import { filmBytes } from './estimate';
import { filmed } from './filmed';
import { filmParts, isHardlyMore } from './frames';
import {
  bitsPerSecond,
  codecName,
  FILM_CODECS,
  FILM_QUALITIES,
  FILM_SHAPES,
  FILM_SIZES,
  filmSettings,
  FRAME_RATES,
  pictureSize,
  USUAL_FILM,
} from './settings';

const settings = fc.record({
  codec: fc.constantFrom(...FILM_CODECS),
  shape: fc.constantFrom(...FILM_SHAPES),
  sizePx: fc.constantFrom(...FILM_SIZES),
  framesPerSecond: fc.constantFrom(...FRAME_RATES),
  quality: fc.constantFrom(...FILM_QUALITIES),
  captions: fc.constantFrom('none' as const, 'drawn' as const),
  hasPointer: fc.boolean(),
  hasInstruments: fc.boolean(),
  hasTitleCard: fc.boolean(),
  surround: fc.constantFrom('#1f2a44', '#ffffff'),
});

describe('what a film is like', () => {
  it.each([
    // ITU-T H.264, table A-1: the levels' examples in table A-6.
    ['avc', 720, 30, 'avc1.64001f'],
    ['avc', 720, 60, 'avc1.640020'],
    ['avc', 1080, 30, 'avc1.640028'],
    ['avc', 1080, 60, 'avc1.64002a'],
    ['avc', 2160, 30, 'avc1.640033'],
    ['avc', 2160, 60, 'avc1.640034'],
    ['av1', 1080, 60, 'av01.0.09M.08'],
    ['vp9', 2160, 60, 'vp09.00.51.08'],
  ] as const)('has the lowest level that allows it: %s at %d, %d frames', (codec, sizePx, framesPerSecond, name) => {
    expect(codecName({ codec, shape: 'wide', sizePx, framesPerSecond })).toBe(name);
  });

  it('has even sides, and can be kept and read back, whatever it is', () => {
    fc.assert(
      fc.property(settings, (one) => {
        const { widthPx, heightPx } = pictureSize(one);
        expect([widthPx % 2, heightPx % 2, Math.min(widthPx, heightPx)]).toEqual([0, 0, one.sizePx]);
        expect(filmSettings.parse(JSON.parse(JSON.stringify(one)))).toEqual(one);
        expect(bitsPerSecond(one)).toBeGreaterThan(0);
      }),
    );
  });

  it('is refused where it is none', () => {
    for (const odd of [{ sizePx: 700 }, { codec: 'mpeg2' }, { surround: 'red' }, { framesPerSecond: 25 }]) {
      expect(filmSettings.safeParse({ ...USUAL_FILM, ...odd }).success).toBe(false);
    }
  });

  it('is told to be larger the more it shows', () => {
    const measure = { seconds: 60, frames: 1000, hasSound: true };
    const usual = filmBytes(USUAL_FILM, measure);
    expect(filmBytes({ ...USUAL_FILM, codec: 'av1' }, measure)).toBeLessThan(usual);
    expect(filmBytes({ ...USUAL_FILM, sizePx: 1080 }, measure)).toBeGreaterThan(usual);
    expect(usual - filmBytes(USUAL_FILM, { ...measure, hasSound: false })).toBe(60 * 8000);
  });
});

describe('the parts of a film', () => {
  it('have all frames in which something changes, in order, without a gap', () => {
    fc.assert(
      fc.property(marks, fc.constantFrom(...FRAME_RATES), fc.array(fc.nat(TAKE_SAMPLES)), (given, rate, ends) => {
        const timeline = new Timeline(base, { lengthSamples: TAKE_SAMPLES, marks: given });
        const cues = ends.map((toSamples) => ({ fromSamples: 0, toSamples }));
        const parts = filmParts(timeline, rate, cues);
        const frames = parts.flatMap((part) => part.frames);
        expect(frames[0]).toBe(0);
        expect(frames).toEqual([...new Set(frames)].sort((a, b) => a - b));
        expect(frames).toEqual(expect.arrayContaining(timeline.changedFrames(rate)));
        const untils = parts.map(({ untilSeconds }) => untilSeconds);
        expect(untils.slice(0, -1)).toEqual(parts.slice(1).map((part) => part.frames[0] / rate));
        expect(untils.at(-1)).toBeGreaterThan(frames.at(-1)! / rate);
      }),
    );
  });

  it('are one where nothing happens at all', () => {
    expect(filmParts(new Timeline(base, { lengthSamples: 0, marks: [] }), 30)).toEqual([
      { frames: [0], untilSeconds: 1 / 30 },
    ]);
  });
});

describe('what is filmed', () => {
  it('has everything, or no pointing, or no instruments', () => {
    fc.assert(
      fc.property(marks, fc.boolean(), fc.boolean(), (given, hasPointer, hasInstruments) => {
        const payload = { base, trail: { lengthSamples: TAKE_SAMPLES, marks: given } };
        const { trail } = filmed(payload, { hasPointer, hasInstruments });
        const end = new Timeline(base, trail).end;
        const whole = new Timeline(base, payload.trail).end;
        const isHidden = ({ kind }: Piece) => kind === 'instrument' && !hasInstruments;
        const wanted = whole.pages.map(({ pieces }) =>
          pieces.map((piece) => (isHidden(piece) ? { ...piece, opacity: 0 } : piece)),
        );
        expect(end.pages.map(({ pieces }) => pieces)).toEqual(wanted);
        if (!hasPointer) expect(trail.marks.map(({ kind }) => kind)).not.toContain('point');
        if (hasPointer && hasInstruments) expect(trail.marks).toEqual(given);
      }),
      { numRuns: 300 },
    );
  });
});

describe('a frame that shows hardly more', () => {
  const PAGE = 'page-one-of-us' as PageId;
  const RATE = 30;
  /** A line across the page, written at an even speed. */
  const timeline = (ptPerSecond: number) => {
    const points = InkPoints.from(
      Array.from({ length: 240 }, (_, i) => {
        const sinceMs = (i * 1000) / 240;
        return { xPt: (sinceMs * ptPerSecond) / 1000, yPt: 100, pressure: 0.5, sinceMs };
      }),
    );
    const stroke = newStroke({
      id: 'stroke' as PieceId,
      z: 1,
      pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
      points,
    });
    const scene = sceneOf([{ page: wideSquaredPage(PAGE), pieces: [] }]);
    return new Timeline(scene, {
      lengthSamples: 96_000,
      marks: [{ kind: 'ink', atSamples: 24_000, page: PAGE, stroke }],
    });
  };
  const at = (one: Timeline, frame: number) => one.at((frame * 48_000) / RATE);
  const isLeftOut = (one: Timeline, frame: number, framesPerSecond = RATE) =>
    isHardlyMore(at(one, frame - 1), at(one, frame), { pxPerPt: 1 }, { heightPx: 720, framesPerSecond });

  it('is one in which a stroke goes on by a 180th of the height at most', () => {
    expect(isLeftOut(timeline(110), 20)).toBe(true);
    expect(isLeftOut(timeline(150), 20)).toBe(false);
  });

  it('is none in which a stroke begins, none before anything is written, and none of few frames', () => {
    const slow = timeline(30);
    const begins = 15;
    expect(shownPage(at(slow, begins).scene).pieces).toHaveLength(1);
    expect(shownPage(at(slow, begins - 1).scene).pieces).toHaveLength(0);
    expect(isLeftOut(slow, begins)).toBe(false);
    expect(isLeftOut(slow, 20, 24)).toBe(false);
  });
});
