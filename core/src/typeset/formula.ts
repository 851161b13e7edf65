import { MathJaxTexFont } from '@mathjax/mathjax-tex-font/mjs/svg.js';
import { liteAdaptor } from '@mathjax/src/mjs/adaptors/liteAdaptor.js';
import type { LiteElement, LiteNode } from '@mathjax/src/mjs/adaptors/lite/Element.js';
import { RegisterHTMLHandler } from '@mathjax/src/mjs/handlers/html.js';
import { TeX } from '@mathjax/src/mjs/input/tex.js';
import '@mathjax/src/mjs/input/tex/ams/AmsConfiguration.js';
import '@mathjax/src/mjs/input/tex/base/BaseConfiguration.js';
import '@mathjax/src/mjs/input/tex/cancel/CancelConfiguration.js';
import { mathjax } from '@mathjax/src/mjs/mathjax.js';
import { SVG } from '@mathjax/src/mjs/output/svg.js';
import { storableDrawing, UNITS_PER_EM, type Drawing, type DrawnLine, type Letter } from '../drawing/drawing';
import { CLOSE, COORDINATES, LINE, MOVE, trace, type Path } from '../drawing/path';
import { composed, IDENTITY, movedTo, scaleAbout, moveBy, type Matrix } from '../lesson/matrix';
import type { RectPt } from '../lesson/rect';
import { parsedPath } from './svg-path';

/** A formula that cannot be typeset. The message says what is wrong with it. */
export class FormulaProblem extends Error {
  override readonly name = 'FormulaProblem';
}

const adaptor = liteAdaptor();
RegisterHTMLHandler(adaptor);
const typeset = mathjax.document('', {
  InputJax: new TeX({ packages: ['base', 'ams', 'cancel'] }),
  OutputJax: new SVG({ fontData: MathJaxTexFont, fontCache: 'none', linebreaks: { inline: false } }),
});

/** Room around a formula, in thousandths of its size. */
const MARGIN = 80;

/**
 * Typesets LaTeX mathematics (in display style) as outlines, by MathJax.
 * @throws FormulaProblem when it is not understood
 */
export function setFormula(tex: string, sizePt: number): Drawing {
  const svg = adaptor.firstChild(typeset.convert(tex, { display: true })) as LiteElement;
  const [left, top, width, height] = adaptor.getAttribute(svg, 'viewBox').split(' ').map(Number);
  const letters: Letter[] = [];
  const lines: DrawnLine[] = [];
  const unit = sizePt / UNITS_PER_EM;
  const toDrawing = composed(scaleAbout({ xPt: 0, yPt: 0 }, unit), moveBy(MARGIN - left, MARGIN - top));
  gather(svg, toDrawing, null, { letters, lines });
  if (letters.length + lines.length === 0) throw new FormulaProblem('There is nothing in this formula yet.');
  return storableDrawing({
    widthPt: (width + 2 * MARGIN) * unit,
    heightPt: (height + 2 * MARGIN) * unit,
    letters,
    lines,
  });
}

type Gathered = { letters: Letter[]; lines: DrawnLine[] };

function gather(node: LiteNode, matrix: Matrix, clip: RectPt | null, into: Gathered): void {
  if (node.kind === '#text' || node.kind === '#comment') return;
  const element = node as LiteElement;
  const attribute = (name: string) => adaptor.getAttribute(element, name) as string | undefined;
  const number = (name: string) => Number(attribute(name) ?? 0);
  const problem = attribute('data-mjx-error');
  if (problem) throw new FormulaProblem(`${problem}.`);
  const own = composed(matrix, transformOf(attribute('transform') ?? ''));
  switch (element.kind) {
    case 'path':
      return addLetter(parsedPath(attribute('d') ?? ''), own, clip, into);
    case 'rect':
    case 'line':
      return void into.lines.push({ path: moved(boxOf(element.kind, number), own), color: null, widthPt: 0 });
    case 'text':
      throw new FormulaProblem(`“${adaptor.textContent(element)}” cannot be set in a formula. Write it as text.`);
    case 'svg': {
      if (attribute('x') === undefined) break;
      // A part of a tall bracket: what is outside of its box is cut off.
      const [x, y, width, height] = (attribute('viewBox') ?? '').split(' ').map(Number);
      const inner = composed(own, moveBy(number('x') - x, number('y') - y));
      const [a, b] = [movedTo(inner, { xPt: x, yPt: y }), movedTo(inner, { xPt: x + width, yPt: y + height })];
      const box = {
        left: Math.min(a.xPt, b.xPt),
        top: Math.min(a.yPt, b.yPt),
        right: Math.max(a.xPt, b.xPt),
        bottom: Math.max(a.yPt, b.yPt),
      };
      for (const child of adaptor.childNodes(element)) gather(child as LiteNode, inner, box, into);
      return;
    }
  }
  for (const child of adaptor.childNodes(element)) gather(child as LiteNode, own, clip, into);
}

const LINE_UNITS = 60;

function boxOf(kind: 'rect' | 'line', number: (name: string) => number): Path {
  if (kind === 'line') {
    return [MOVE, number('x1'), number('y1') - LINE_UNITS / 2, LINE, number('x2'), number('y2') - LINE_UNITS / 2]
      .concat([LINE, number('x2'), number('y2') + LINE_UNITS / 2, LINE, number('x1'), number('y1') + LINE_UNITS / 2])
      .concat([CLOSE]);
  }
  return rectangle({
    left: number('x'),
    top: number('y'),
    right: number('x') + number('width'),
    bottom: number('y') + number('height'),
  });
}

const rectangle = ({ left, top, right, bottom }: RectPt): Path => [
  ...[MOVE, left, top, LINE, right, top, LINE, right, bottom, LINE, left, bottom],
  CLOSE,
];

function addLetter(path: Path, matrix: Matrix, clip: RectPt | null, into: Gathered): void {
  if (path.length === 0) return;
  const [a, b, c, d, xPt, yPt] = matrix;
  if (clip) {
    // What is stretched in such a box is as good as a bar.
    const { left, right, top, bottom } = boundsOf(moved(path, matrix));
    const bar = {
      left: Math.max(left, clip.left),
      right: Math.min(right, clip.right),
      top: Math.max(top, clip.top),
      bottom: Math.min(bottom, clip.bottom),
    };
    into.lines.push({ path: rectangle(bar), color: null, widthPt: 0 });
  } else if (b === 0 && c === 0 && a === -d && a > 0) {
    // A letter, only enlarged: its outline is shared with all others of its kind.
    const outline = moved(path, [1, 0, 0, -1, 0, 0]).map((value) => Math.round(value) + 0);
    into.letters.push({ outline, xPt, yPt, sizePt: a * UNITS_PER_EM });
  } else {
    into.lines.push({ path: moved(path, matrix), color: null, widthPt: 0 });
  }
}

function moved(path: Path, matrix: Matrix): number[] {
  const out: number[] = [];
  for (let i = 0; i < path.length;) {
    const end = i + COORDINATES[path[i]];
    out.push(path[i]);
    for (let n = i + 1; n <= end; n += 2) {
      const { xPt, yPt } = movedTo(matrix, { xPt: path[n], yPt: path[n + 1] });
      out.push(xPt, yPt);
    }
    i = end + 1;
  }
  return out;
}

function boundsOf(path: Path): RectPt {
  const xs: number[] = [];
  const ys: number[] = [];
  const add = (...places: number[]) => places.forEach((value, i) => (i % 2 === 0 ? xs : ys).push(value));
  trace(path, { moveTo: add, lineTo: add, quadraticCurveTo: add, bezierCurveTo: add, closePath: () => {} });
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

/** SVG's `translate` and `scale`, one after the other. */
function transformOf(text: string): Matrix {
  let matrix = IDENTITY;
  for (const [, name, values] of text.matchAll(/(\w+)\(([^)]*)\)/g)) {
    const [x, y] = values.split(/[ ,]+/).map(Number);
    if (name === 'translate') matrix = composed(matrix, moveBy(x, y || 0));
    else if (name === 'scale') matrix = composed(matrix, scaleAbout({ xPt: 0, yPt: 0 }, x, y ?? x));
  }
  return matrix;
}
