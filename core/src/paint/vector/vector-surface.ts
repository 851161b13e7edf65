import { CLOSE, CUBIC, LINE, MOVE } from '../../drawing/path';
import { composed, IDENTITY, type Matrix } from '../../lesson/matrix';
import type { Surface } from '../surface';

/** How a path is filled or drawn. Lengths and places are the surface's own, whatever was transformed. */
export interface VectorPaint {
  /** `#rrggbb` */
  color: string;
  /** 0 to 1 */
  opacity: number;
  blend: 'normal' | 'multiply' | 'screen';
}
export interface VectorLine extends VectorPaint {
  width: number;
  cap: 'butt' | 'round' | 'square';
  join: 'miter' | 'round' | 'bevel';
  dash: readonly number[];
}

/** So many parts of a circle are drawn as curves each, which differ from it by a few parts in 10,000 (common practice). */
const ARC_STEP = Math.PI / 2;

/**
 * A surface on which nothing is painted: what is drawn is handed on as paths, pictures and clips, in the surface's own coordinates, for
 * whoever writes them down. It behaves as a canvas does (HTML Standard, section 4.12.5.1), as far as the painter asks.
 */
export abstract class VectorSurface implements Surface {
  imageSmoothingQuality: unknown = 'medium';
  fillStyle: unknown = '#000000';
  strokeStyle: unknown = '#000000';
  lineWidth = 1;
  lineCap: unknown = 'butt';
  lineJoin: unknown = 'miter';
  globalAlpha = 1;
  globalCompositeOperation: unknown = 'source-over';
  private matrix: Matrix = IDENTITY;
  private dash: readonly number[] = [];
  private readonly saved: ReturnType<VectorSurface['state']>[] = [];
  /** Commands and coordinates, as in `drawing/path`. */
  private path: number[] = [];

  protected abstract writeFill(path: readonly number[], paint: VectorPaint): void;
  protected abstract writeLine(path: readonly number[], line: VectorLine): void;
  protected abstract writeClip(path: readonly number[]): void;
  protected abstract writeSave(): void;
  protected abstract writeRestore(): void;
  /** @param matrix where the unit square's corners lie, the origin at its upper left @param source the part that is drawn, in shares of the whole */
  protected abstract writeImage(image: unknown, matrix: Matrix, source: SourceShares, opacity: number): void;

  save(): void {
    this.saved.push(this.state());
    this.writeSave();
  }

  restore(): void {
    const before = this.saved.pop();
    if (!before) return;
    Object.assign(this, before);
    this.writeRestore();
  }

  private state() {
    const { fillStyle, strokeStyle, lineWidth, lineCap, lineJoin, globalAlpha, globalCompositeOperation } = this;
    const { matrix, dash } = this;
    return {
      fillStyle,
      strokeStyle,
      lineWidth,
      lineCap,
      lineJoin,
      globalAlpha,
      globalCompositeOperation,
      matrix,
      dash,
    };
  }

  transform(a: number, b: number, c: number, d: number, e: number, f: number): void {
    this.matrix = composed(this.matrix, [a, b, c, d, e, f]);
  }

  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void {
    this.matrix = [a, b, c, d, e, f];
  }

  setLineDash(segments: number[]): void {
    this.dash = segments;
  }

  beginPath(): void {
    this.path = [];
  }

  closePath(): void {
    if (this.path.length > 0) this.path.push(CLOSE);
  }

  moveTo(x: number, y: number): void {
    this.path.push(MOVE, ...this.at(x, y));
  }

  /** As on a canvas, the first line of a path begins where it ends. */
  lineTo(x: number, y: number): void {
    this.path.push(this.path.length === 0 ? MOVE : LINE, ...this.at(x, y));
  }

  quadraticCurveTo(cpx: number, cpy: number, x: number, y: number): void {
    const [toX, toY] = this.at(x, y);
    const [controlX, controlY] = this.at(cpx, cpy);
    const [fromX, fromY] = this.last() ?? [controlX, controlY];
    const third = (from: number, control: number) => from + (2 / 3) * (control - from);
    this.path.push(CUBIC, third(fromX, controlX), third(fromY, controlY));
    this.path.push(third(toX, controlX), third(toY, controlY), toX, toY);
  }

  bezierCurveTo(cp1x: number, cp1y: number, cp2x: number, cp2y: number, x: number, y: number): void {
    this.path.push(CUBIC, ...this.at(cp1x, cp1y), ...this.at(cp2x, cp2y), ...this.at(x, y));
  }

  arc(x: number, y: number, radius: number, startAngle: number, endAngle: number, isAnticlockwise = false): void {
    const turn = turnOf(startAngle, endAngle, isAnticlockwise);
    const steps = Math.max(1, Math.ceil(Math.abs(turn) / ARC_STEP));
    const step = turn / steps;
    const reach = (4 / 3) * Math.tan(step / 4) * radius;
    const on = (angle: number) => [x + radius * Math.cos(angle), y + radius * Math.sin(angle)] as const;
    const [firstX, firstY] = on(startAngle);
    if (this.path.length === 0) this.moveTo(firstX, firstY);
    else this.lineTo(firstX, firstY);
    for (let n = 0; n < steps; n++) {
      const [from, to] = [startAngle + n * step, startAngle + (n + 1) * step];
      const [[fromX, fromY], [toX, toY]] = [on(from), on(to)];
      this.bezierCurveTo(
        fromX - reach * Math.sin(from),
        fromY + reach * Math.cos(from),
        toX + reach * Math.sin(to),
        toY - reach * Math.cos(to),
        toX,
        toY,
      );
    }
  }

  rect(x: number, y: number, width: number, height: number): void {
    this.moveTo(x, y);
    this.lineTo(x + width, y);
    this.lineTo(x + width, y + height);
    this.lineTo(x, y + height);
    this.closePath();
  }

  fillRect(x: number, y: number, width: number, height: number): void {
    const path = this.path;
    this.path = [];
    this.rect(x, y, width, height);
    this.fill();
    this.path = path;
  }

  fill(): void {
    if (this.path.length > 0) this.writeFill(this.path, this.paint(this.fillStyle));
  }

  stroke(): void {
    if (this.path.length === 0) return;
    const { lineWidth, lineCap, lineJoin, dash, strokeStyle } = this;
    const scale = this.scale();
    this.writeLine(this.path, {
      ...this.paint(strokeStyle),
      width: lineWidth * scale,
      cap: lineCap as VectorLine['cap'],
      join: lineJoin as VectorLine['join'],
      dash: dash.map((length) => length * scale),
    });
  }

  clip(): void {
    this.writeClip(this.path);
  }

  drawImage(
    image: unknown,
    ...[sx, sy, sWidth, sHeight, dx, dy, dWidth, dHeight]: [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ]
  ): void {
    const matrix = composed(this.matrix, [dWidth, 0, 0, dHeight, dx, dy]);
    this.writeImage(image, matrix, { x: sx, y: sy, width: sWidth, height: sHeight }, this.globalAlpha);
  }

  private at(x: number, y: number): [number, number] {
    const [a, b, c, d, e, f] = this.matrix;
    return [a * x + c * y + e, b * x + d * y + f];
  }

  private last(): [number, number] | null {
    return this.path.length < 2 ? null : [this.path.at(-2)!, this.path.at(-1)!];
  }

  /** How much larger lengths become; of what is stretched more one way than the other, between the two. */
  private scale(): number {
    const [a, b, c, d] = this.matrix;
    return Math.sqrt(Math.abs(a * d - b * c));
  }

  private paint(style: unknown): VectorPaint {
    const { color, alpha } = colorOf(String(style));
    const operation = this.globalCompositeOperation;
    const blend = operation === 'multiply' || operation === 'screen' ? operation : 'normal';
    return { color, opacity: this.globalAlpha * alpha, blend };
  }
}

/** The part of a picture that is drawn, in the units in which its size is told. */
export interface SourceShares {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** By how much an arc turns (HTML Standard, `arc()`): never more than once around. */
function turnOf(start: number, end: number, isAnticlockwise: boolean): number {
  const whole = 2 * Math.PI;
  const turn = isAnticlockwise ? start - end : end - start;
  const bounded = turn >= whole ? whole : ((turn % whole) + whole) % whole;
  return isAnticlockwise ? -bounded : bounded;
}

/** A colour as the painter writes them: `#rrggbb`, `#rrggbbaa` or `rgb(r g b / a%)`. */
function colorOf(style: string): { color: string; alpha: number } {
  if (style.startsWith('#')) {
    return { color: style.slice(0, 7), alpha: style.length === 9 ? parseInt(style.slice(7), 16) / 255 : 1 };
  }
  const [red, green, blue, alpha = '1'] = style.match(/[\d.]+%?/g) ?? ['0', '0', '0'];
  const hex = [red, green, blue].map((part) => Math.round(Number(part)).toString(16).padStart(2, '0'));
  return { color: `#${hex.join('')}`, alpha: alpha.endsWith('%') ? parseFloat(alpha) / 100 : Number(alpha) };
}
