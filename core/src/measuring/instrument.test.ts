import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NOTHING_DRAWN } from '../drawing/drawing';
import { pieceBounds } from '../lesson/bounds';
import { INSTRUMENTS } from '../lesson/content';
import { frameMatrix, type Frame } from '../lesson/frame';
import type { PieceId } from '../lesson/ids';
import { movedTo } from '../lesson/matrix';
import { NEW, type InstrumentPiece } from '../lesson/piece';
import { EdgeWalk } from './edge-walk';
import { carried, laidDown, storableTurn, sized, turnedBy } from './handling';
import { angleText, edgesOf, FIRST_SIZE, lengthText, onEdge, PT_PER_CM, readingOf } from './instrument';

const CM = { perCm: 1, unit: 'cm' };
const frame = (turnRad = 0) => ({ xPt: 400, yPt: 300, ...FIRST_SIZE.ruler, turnRad, mirrored: false });
const ruler = { instrument: 'ruler' as const, scale: CM };

describe('measuring', () => {
  it('knows how long a centimetre is, and reads in the scale of the page', () => {
    // An inch is 25.4 mm exactly, and 72 points (ISO 32000-1, 8.3.2.3).
    expect(PT_PER_CM * 2.54).toBeCloseTo(72, 10);
    expect(lengthText(PT_PER_CM * 7.5, CM)).toBe('7.50 cm');
    expect(lengthText(PT_PER_CM * 7.5, { perCm: 2, unit: 'km' })).toBe('15.0 km');
    expect(lengthText(PT_PER_CM * 9.9986, CM)).toBe('10.0 cm');
  });

  it('tells angles anticlockwise, in halves of a degree', () => {
    expect(angleText(0)).toBe('0°');
    expect(angleText(-Math.PI / 6)).toBe('30°');
    expect(angleText(Math.PI / 2)).toBe('270°');
    const compasses = { instrument: 'compasses' as const, scale: CM };
    expect(readingOf(compasses, { ...frame(), widthPt: 4 * PT_PER_CM })).toBe('r 4.00 cm');
    expect(edgesOf(compasses, frame())).toHaveLength(1);
  });

  it('leads a pen along the nearest edge of a turned ruler, and lets one go that is far from it', () => {
    const turn = Math.PI / 5;
    const lower = { xPt: 400 - Math.sin(turn) * 34, yPt: 300 + Math.cos(turn) * 34 };
    const led = onEdge(ruler, frame(turn), lower, 20)!;
    // The edge lies half the ruler's width from its middle.
    const off = -(led.xPt - 400) * Math.sin(turn) + (led.yPt - 300) * Math.cos(turn);
    expect(off).toBeCloseTo(FIRST_SIZE.ruler.heightPt / 2, 6);
    expect(onEdge(ruler, frame(turn), { xPt: 100, yPt: 20 }, 20)).toBeNull();
    expect(onEdge(ruler, frame(turn), lower, 20, 0)).toBeNull();
  });
});

const pieceOf = (content: InstrumentPiece['content'], at: Frame): InstrumentPiece => ({
  ...NEW,
  id: 'ruler' as PieceId,
  z: 0,
  kind: 'instrument',
  content,
  frame: at,
  drawing: NOTHING_DRAWN,
});

describe('a pen led along an edge', () => {
  it('reads the length drawn, in the scale of the page', () => {
    const scaled = { instrument: 'ruler' as const, scale: { perCm: 2, unit: 'km' } };
    const turn = -Math.PI / 6;
    const place = (along: number, off: number) => ({
      xPt: 400 + Math.cos(turn) * along - Math.sin(turn) * off,
      yPt: 300 + Math.sin(turn) * along + Math.cos(turn) * off,
    });
    const walk = EdgeWalk.from(pieceOf(scaled, frame(turn)), place(-100, -40), 20)!;
    for (let step = 0; step <= 10; step++) walk.to(place(-100 + (5 * PT_PER_CM * step) / 10, -55));
    expect(walk.reading).toBe('10.0 km');
    expect(EdgeWalk.from(pieceOf(scaled, frame(turn)), place(0, 200), 20)).toBeNull();
  });

  it('reads radius and angle of compasses, past the place where angles begin anew', () => {
    const compasses = { instrument: 'compasses' as const, scale: CM };
    const opened = { ...frame(), widthPt: 3 * PT_PER_CM };
    const point = 400 - opened.widthPt / 2;
    const at = (degrees: number) => ({
      xPt: point + Math.cos((degrees * Math.PI) / 180) * 90,
      yPt: 300 + Math.sin((degrees * Math.PI) / 180) * 90,
    });
    const walk = EdgeWalk.from(pieceOf(compasses, opened), at(120), 20)!;
    for (let degrees = 120; degrees <= 270; degrees += 10) walk.to(at(degrees));
    expect(walk.reading).toBe('r 3.00 cm  150°');
    for (let degrees = 270; degrees <= 480; degrees += 10) walk.to(at(degrees));
    expect(walk.reading).toBe('r 3.00 cm  360°');
  });
});

describe('instruments in the hand', () => {
  const place = fc.record({
    xPt: fc.double({ min: 0, max: 900, noNaN: true }),
    yPt: fc.double({ min: 0, max: 500, noNaN: true }),
  });

  it('are carried by two fingers without being stretched', () => {
    fc.assert(
      fc.property(fc.tuple(place, place), fc.tuple(place, place), (from, to) => {
        const matrix = carried(from, to);
        expect(matrix[0] * matrix[3] - matrix[1] * matrix[2]).toBeCloseTo(1, 9);
        const [one, other] = from.map((finger) => movedTo(matrix, finger));
        // The middle of the fingers is where it is wanted, and the line between them points there.
        expect((one.xPt + other.xPt) / 2).toBeCloseTo((to[0].xPt + to[1].xPt) / 2, 6);
        expect((one.yPt + other.yPt) / 2).toBeCloseTo((to[0].yPt + to[1].yPt) / 2, 6);
        const cross = (other.xPt - one.xPt) * (to[1].yPt - to[0].yPt) - (other.yPt - one.yPt) * (to[1].xPt - to[0].xPt);
        expect(cross).toBeCloseTo(0, 3);
      }),
    );
  });

  it('fall into whole degrees, and into place near the angles wanted most', () => {
    const degrees = (turn: number) => (storableTurn((turn * Math.PI) / 180) * 180) / Math.PI;
    expect(degrees(44)).toBeCloseTo(45, 9);
    expect(degrees(41.7)).toBeCloseTo(42, 9);
    expect(degrees(-91)).toBeCloseTo(-90, 9);
    // A step by key is taken even next to those.
    expect((turnedBy(frame(), Math.PI / 180).turnRad * 180) / Math.PI).toBeCloseTo(1, 2);
  });

  it('keep one end where it is when they are made longer', () => {
    for (const instrument of INSTRUMENTS) {
      const before = { ...frame(0.7), ...FIRST_SIZE[instrument] };
      const after = sized(instrument, before, before.widthPt * 1.5);
      expect(after.widthPt).toBeCloseTo(before.widthPt * 1.5, 1);
      const edges = [before, after].map((one) => edgesOf({ instrument, scale: CM }, one)[0]);
      const fixed = edges.map((edge, i) => {
        const [xPt, yPt] =
          edge.kind === 'arc' ? edge.middle : instrument === 'protractor' ? [0, edge.from[1]] : edge.from;
        return movedTo(frameMatrix([before, after][i]), { xPt, yPt });
      });
      // Frames are kept on a grid of a 32nd of a point.
      expect(Math.hypot(fixed[0].xPt - fixed[1].xPt, fixed[0].yPt - fixed[1].yPt)).toBeLessThan(0.06);
    }
  });

  it('are laid in what is seen of the page, and no larger than that', () => {
    const seen = { left: 100, top: 50, right: 400, bottom: 250 };
    for (const instrument of INSTRUMENTS) {
      const laid = laidDown(instrument, seen);
      expect(laid.widthPt).toBeLessThan(300);
      expect(laid.xPt).toBeCloseTo(250, 1);
      expect(laid.yPt).toBeCloseTo(150, 1);
    }
  });

  it('are laid beside those that lie there already', () => {
    const seen = { left: 100, top: 50, right: 400, bottom: 250 };
    const lying: Frame[] = [];
    for (const instrument of INSTRUMENTS) lying.push(laidDown(instrument, seen, lying));
    for (const [i, one] of lying.entries())
      for (const other of lying.slice(0, i))
        expect(Math.hypot(one.xPt - other.xPt, one.yPt - other.yPt)).toBeGreaterThan(36);
  });

  it('are painted anew as far as compasses reach', () => {
    const piece = pieceOf({ instrument: 'compasses', scale: CM }, { ...frame(1.2), widthPt: 200 });
    const bounds = pieceBounds(piece);
    const [edge] = edgesOf(piece.content, piece.frame);
    const middle = movedTo(frameMatrix(piece.frame), { xPt: -100, yPt: 0 });
    expect(edge.kind === 'arc' && edge.radius).toBe(200);
    expect(bounds.left).toBeLessThan(middle.xPt - 200);
    expect(bounds.top).toBeLessThan(middle.yPt - 200);
    expect(bounds.bottom).toBeGreaterThan(middle.yPt + 200);
  });

  it('are painted anew as far as their marks reach, however small they are', () => {
    const small = pieceOf(ruler, { ...frame(), widthPt: 34, heightPt: 4 });
    // The longest mark is 11 pt, from the upper edge.
    expect(pieceBounds(small).bottom).toBeGreaterThan(small.frame.yPt - 2 + 11 + 9);
  });

  it('have an arc, however flat a protractor’s frame is', () => {
    const [, arc] = edgesOf({ instrument: 'protractor', scale: CM }, { ...frame(), widthPt: 30, heightPt: 5 });
    expect(arc.kind === 'arc' && arc.radius).toBeGreaterThan(0);
  });
});
