import { CLOSE, COORDINATES, CUBIC, LINE, MOVE } from '../../drawing/path';
import type { Matrix } from '../../lesson/matrix';
import { VectorSurface, type SourceShares, type VectorLine, type VectorPaint } from './vector-surface';

/** A picture that a PDF has, by a name of its own on the page. */
export interface PdfImage {
  name: string;
  /** How large the whole of it is, in the units in which its parts are told. */
  widthPx: number;
  heightPx: number;
  /** An image fills a unit square; a form, such as another PDF's page, has a size of its own, its origin at the lower left. */
  form: { width: number; height: number } | null;
}

/** How opaque, and how blended: a PDF keeps these apart from its drawing, by name. */
export interface PdfBlend {
  name: string;
  opacity: number;
  blend: VectorPaint['blend'];
}

const CAPS = { butt: 0, round: 1, square: 2 };
const JOINS = { miter: 0, round: 1, bevel: 2 };

/**
 * Writes down what is drawn as a PDF's content (ISO 32000-1, section 8). Its own coordinates go down the page, as a canvas's do: the
 * content begins by turning the page over.
 */
export class PdfSurface extends VectorSurface {
  private readonly lines: string[];
  private readonly blends = new Map<string, PdfBlend>();

  /** @param height of what is drawn on, in the surface's own units */
  constructor(height: number) {
    super();
    this.lines = [`1 0 0 -1 0 ${num(height)} cm`];
  }

  /** The content, and what it names. */
  get content(): string {
    return this.lines.join('\n');
  }
  get blendsUsed(): readonly PdfBlend[] {
    return [...this.blends.values()];
  }

  /** Further operators, such as marks of what a text says. */
  write(line: string): void {
    this.lines.push(line);
  }

  protected override writeFill(path: readonly number[], paint: VectorPaint): void {
    this.within(paint, [`${rgb(paint.color)} rg`, operators(path), 'f']);
  }

  protected override writeLine(path: readonly number[], line: VectorLine): void {
    const dash = `[${line.dash.map(num).join(' ')}] 0 d`;
    const style = `${num(line.width)} w ${CAPS[line.cap]} J ${JOINS[line.join]} j ${dash}`;
    this.within(line, [`${rgb(line.color)} RG`, style, operators(path), 'S']);
  }

  /** What is clipped by nothing at all shows nothing. */
  protected override writeClip(path: readonly number[]): void {
    this.lines.push(`${path.length === 0 ? '0 0 0 0 re' : operators(path)} W n`);
  }

  protected override writeSave(): void {
    this.lines.push('q');
  }

  protected override writeRestore(): void {
    this.lines.push('Q');
  }

  protected override writeImage(image: unknown, matrix: Matrix, source: SourceShares, opacity: number): void {
    const { name, form, widthPx, heightPx } = image as PdfImage;
    const [a, b, c, d, e, f] = matrix;
    // The whole of the picture is drawn, in such a place that the part that is wanted lies where it is wanted; the rest is clipped.
    const [acrossX, acrossY] = [a / source.width, b / source.width];
    const [downX, downY] = [c / source.height, d / source.height];
    const [x, y] = [e - source.x * acrossX - source.y * downX, f - source.x * acrossY - source.y * downY];
    const [across, down] = form ? [widthPx / form.width, heightPx / form.height] : [widthPx, heightPx];
    // Pictures begin at their lower left.
    const placed = [
      acrossX * across,
      acrossY * across,
      -downX * down,
      -downY * down,
      x + downX * heightPx,
      y + downY * heightPx,
    ];
    const corners = [0, 0, 1, 0, 1, 1, 0, 1];
    const clip: number[] = [];
    for (let i = 0; i < 8; i += 2) {
      clip.push(
        i === 0 ? MOVE : LINE,
        a * corners[i] + c * corners[i + 1] + e,
        b * corners[i] + d * corners[i + 1] + f,
      );
    }
    clip.push(CLOSE);
    const paint: VectorPaint = { color: '#000000', opacity, blend: 'normal' };
    this.within(paint, [`${operators(clip)} W n`, `${placed.map(fine).join(' ')} cm`, `/${name} Do`]);
  }

  private within(paint: VectorPaint, lines: readonly string[]): void {
    const blend = this.blendOf(paint);
    this.lines.push('q', ...(blend ? [`/${blend} gs`] : []), ...lines, 'Q');
  }

  private blendOf({ opacity, blend }: VectorPaint): string | null {
    if (opacity === 1 && blend === 'normal') return null;
    const rounded = Math.round(opacity * 1000) / 1000;
    const key = `${blend} ${rounded}`;
    const known = this.blends.get(key) ?? { name: `G${this.blends.size}`, opacity: rounded, blend };
    this.blends.set(key, known);
    return known.name;
  }
}

const OPERATORS: Record<number, string> = { [MOVE]: 'm', [LINE]: 'l', [CUBIC]: 'c', [CLOSE]: 'h' };

function operators(path: readonly number[]): string {
  const parts: string[] = [];
  for (let i = 0; i < path.length; i += 1 + COORDINATES[path[i]]) {
    for (let n = 1; n <= COORDINATES[path[i]]; n++) parts.push(num(path[i + n]));
    parts.push(OPERATORS[path[i]]);
  }
  return parts.join(' ');
}

/** What is multiplied by a page's size must be finer. */
const fine = (value: number): string => value.toFixed(7);

/** Thousandths of a point are finer than any printer. */
function num(value: number): string {
  const rounded = Math.round(value * 1000) / 1000;
  // Never in powers of ten, which PDF does not know.
  return Number.isInteger(rounded) ? rounded.toFixed(0) : rounded.toFixed(3).replace(/0+$/, '');
}

const rgb = (color: string): string =>
  [1, 3, 5].map((at) => num(parseInt(color.slice(at, at + 2), 16) / 255)).join(' ');
