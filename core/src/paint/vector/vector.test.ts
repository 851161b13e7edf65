import fc from 'fast-check';
import { SaxesParser } from 'saxes';
import { describe, expect, it } from 'vitest';
import { CLOSE, CUBIC, LINE, MOVE } from '../../drawing/path';
import type { AssetId } from '../../lesson/ids';
import { page, piece } from '../../testing/arbitraries';
import { paintPage } from '../painter';
import type { Images } from '../picture';
import { PdfSurface, type PdfImage } from './pdf-surface';
import { SvgSurface } from './svg-surface';
import { VectorSurface, type VectorLine, type VectorPaint } from './vector-surface';

/** Notes what is drawn. */
class Noted extends VectorSurface {
  readonly fills: { path: readonly number[]; paint: VectorPaint }[] = [];
  readonly lines: { path: readonly number[]; line: VectorLine }[] = [];
  protected override writeFill(path: readonly number[], paint: VectorPaint) {
    this.fills.push({ path: [...path], paint });
  }
  protected override writeLine(path: readonly number[], line: VectorLine) {
    this.lines.push({ path: [...path], line });
  }
  protected override writeClip() {}
  protected override writeSave() {}
  protected override writeRestore() {}
  protected override writeImage() {}
}

const state = fc.record({ page, pieces: fc.array(piece, { maxLength: 8 }) });
const picture = { name: 'I0', widthPx: 40, heightPx: 30, form: null } satisfies PdfImage;
const images: Images = { find: (_asset: AssetId, _page, _width) => ({ image: picture, widthPx: 40, heightPx: 30 }) };
const HEIGHT = 500;

describe('a surface that notes what is drawn', () => {
  it('puts paths where transforms say, as a canvas does', () => {
    const surface = new Noted();
    surface.setTransform(2, 0, 0, 2, 10, 0);
    surface.transform(1, 0, 0, 1, 5, 5);
    surface.beginPath();
    surface.moveTo(0, 0);
    surface.lineTo(1, 1);
    surface.closePath();
    surface.fillStyle = '#12776f';
    surface.globalAlpha = 0.5;
    surface.fill();
    expect(surface.fills).toEqual([
      { path: [MOVE, 20, 10, LINE, 22, 12, CLOSE], paint: { color: '#12776f', opacity: 0.5, blend: 'normal' } },
    ]);
    surface.lineWidth = 3;
    surface.setLineDash([1, 2]);
    surface.strokeStyle = 'rgba(255, 0, 16, 0.5)';
    surface.stroke();
    expect(surface.lines[0].line).toMatchObject({ width: 6, dash: [2, 4], color: '#ff0010', opacity: 0.25 });
  });

  it('takes back what was saved', () => {
    const surface = new Noted();
    surface.save();
    surface.setTransform(1, 0, 0, 1, 50, 50);
    surface.globalAlpha = 0.1;
    surface.restore();
    surface.fillRect(0, 0, 1, 1);
    expect(surface.fills[0].path.slice(0, 3)).toEqual([MOVE, 0, 0]);
    expect(surface.fills[0].paint.opacity).toBe(1);
  });

  it('draws arcs that stay on their circle, whichever way they turn', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -9, max: 9, noNaN: true }),
        fc.double({ min: -9, max: 9, noNaN: true }),
        fc.boolean(),
        (from, to, isBack) => {
          const surface = new Noted();
          surface.beginPath();
          surface.arc(0, 0, 100, from, to, isBack);
          surface.fill();
          const path = surface.fills[0].path;
          const ends: [number, number][] = [[path[1], path[2]]];
          for (let i = 3; i < path.length; i += 7) {
            expect(path[i]).toBe(CUBIC);
            const [x0, y0] = ends.at(-1)!;
            const [x1, y1, x2, y2, x3, y3] = path.slice(i + 1, i + 7);
            const middle = [x0, y0].map((start, n) => (start + 3 * [x1, y1][n] + 3 * [x2, y2][n] + [x3, y3][n]) / 8);
            expect(Math.hypot(...middle)).toBeCloseTo(100, 0);
            ends.push([x3, y3]);
          }
          const whole = Math.abs(to - from) >= 2 * Math.PI && to > from !== isBack;
          const last = whole ? from : to;
          expect(ends.at(-1)![0]).toBeCloseTo(100 * Math.cos(last), 4);
          expect(ends.at(-1)![1]).toBeCloseTo(100 * Math.sin(last), 4);
        },
      ),
    );
  });
});

describe('any page', () => {
  it('becomes PDF content: numbers without powers, and as much restored as saved (ISO 32000-1, section 8.4.2)', () => {
    fc.assert(
      fc.property(state, (given) => {
        const surface = new PdfSurface(HEIGHT);
        paintPage(surface, given, { leftPx: 0, topPx: 0, pxPerPt: 1 }, images);
        const words = surface.content.split(/\s+/);
        let [depth, lowest] = [0, 0];
        for (const word of words) {
          depth += word === 'q' ? 1 : word === 'Q' ? -1 : 0;
          lowest = Math.min(lowest, depth);
        }
        expect([depth, lowest]).toEqual([0, 0]);
        const word = /^(\[?-?\d+(\.\d+)?\]?|\[\]|[a-zA-Z]{1,2}|\/[A-Z]\d+)$/;
        expect(words.filter((one) => !word.test(one))).toEqual([]);
        const named = new Set(words.filter((word) => /^\/G/.test(word)).map((word) => word.slice(1)));
        expect(new Set(surface.blendsUsed.map(({ name }) => name))).toEqual(named);
      }),
      { numRuns: 40 },
    );
  });

  it('becomes a well-formed SVG document, whatever it is called', () => {
    fc.assert(
      fc.property(state, fc.string({ unit: 'binary' }), (given, title) => {
        const surface = new SvgSurface(640, HEIGHT, title);
        const found = { href: 'data:image/png;base64,AA==', widthPx: 40, heightPx: 30 };
        paintPage(surface, given, { leftPx: 0, topPx: 0, pxPerPt: 1 }, { find: () => ({ ...found, image: found }) });
        const parser = new SaxesParser({ xmlns: true });
        parser.on('error', (error) => {
          throw error;
        });
        parser.write(surface.document).close();
        expect(surface.document).not.toMatch(/NaN|Infinity/);
      }),
      { numRuns: 40 },
    );
  });
});
