import { markupText } from '../../formats/markup-text';
import { CLOSE, COORDINATES, CUBIC, LINE, MOVE } from '../../drawing/path';
import type { Matrix } from '../../lesson/matrix';
import { VectorSurface, type SourceShares, type VectorLine, type VectorPaint } from './vector-surface';

/** A picture by its address, which may hold its bytes. */
export interface SvgImage {
  href: string;
  widthPx: number;
  heightPx: number;
}

const LETTERS: Record<number, string> = { [MOVE]: 'M', [LINE]: 'L', [CUBIC]: 'C', [CLOSE]: 'Z' };

/** Writes down what is drawn as an SVG document (W3C SVG 2). */
export class SvgSurface extends VectorSurface {
  private readonly body: string[] = [];
  private clips = 0;
  /** How many groups each level has opened. */
  private readonly groups: number[] = [0];

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly title: string,
  ) {
    super();
  }

  get document(): string {
    const size = `width="${num(this.width)}" height="${num(this.height)}" viewBox="0 0 ${num(this.width)} ${num(this.height)}"`;
    const open = '</g>'.repeat(this.groups.reduce((sum, count) => sum + count, 0));
    return `<svg xmlns="http://www.w3.org/2000/svg" ${size}><title>${markupText(this.title)}</title>${this.body.join('')}${open}</svg>`;
  }

  protected override writeFill(path: readonly number[], paint: VectorPaint): void {
    this.body.push(
      `<path d="${data(path)}" fill="${paint.color}"${opacityOf('fill-opacity', paint)}${blendOf(paint)}/>`,
    );
  }

  protected override writeLine(path: readonly number[], line: VectorLine): void {
    const dash = line.dash.length > 0 ? ` stroke-dasharray="${line.dash.map(num).join(' ')}"` : '';
    const style = `stroke-width="${num(line.width)}" stroke-linecap="${line.cap}" stroke-linejoin="${line.join}"${dash}`;
    const paint = `stroke="${line.color}"${opacityOf('stroke-opacity', line)}${blendOf(line)}`;
    this.body.push(`<path d="${data(path)}" fill="none" ${style} ${paint}/>`);
  }

  protected override writeClip(path: readonly number[]): void {
    const id = `clip-${this.clips++}`;
    this.body.push(`<clipPath id="${id}"><path d="${data(path)}"/></clipPath><g clip-path="url(#${id})">`);
    this.groups[this.groups.length - 1]++;
  }

  protected override writeSave(): void {
    this.groups.push(0);
  }

  protected override writeRestore(): void {
    this.body.push('</g>'.repeat(this.groups.pop()!));
  }

  protected override writeImage(image: unknown, matrix: Matrix, source: SourceShares, opacity: number): void {
    const { href, widthPx, heightPx } = image as SvgImage;
    const [a, b, c, d, e, f] = matrix;
    const view = [source.x, source.y, source.width, source.height].map(num).join(' ');
    const picture = `<image href="${markupText(href)}" width="${num(widthPx)}" height="${num(heightPx)}" preserveAspectRatio="none"/>`;
    const part = `<svg width="1" height="1" viewBox="${view}" preserveAspectRatio="none">${picture}</svg>`;
    const shown = opacity < 1 ? ` opacity="${num(opacity)}"` : '';
    this.body.push(`<g transform="matrix(${[a, b, c, d, e, f].map(fine).join(' ')})"${shown}>${part}</g>`);
  }
}

function data(path: readonly number[]): string {
  const parts: string[] = [];
  for (let i = 0; i < path.length; i += 1 + COORDINATES[path[i]]) {
    parts.push(
      LETTERS[path[i]] +
        path
          .slice(i + 1, i + 1 + COORDINATES[path[i]])
          .map(num)
          .join(' '),
    );
  }
  return parts.join('');
}

const num = (value: number): string => String(Math.round(value * 1000) / 1000);
const fine = (value: number): string => String(Math.round(value * 1e6) / 1e6);
const opacityOf = (name: string, { opacity }: VectorPaint): string => (opacity < 1 ? ` ${name}="${num(opacity)}"` : '');
const blendOf = ({ blend }: VectorPaint): string => (blend === 'normal' ? '' : ` style="mix-blend-mode:${blend}"`);
