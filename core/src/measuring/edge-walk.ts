import type { InstrumentPiece } from '../lesson/piece';
import { edgesOf, lengthText, onEdge, sweepText, type OnEdge } from './instrument';

interface PlacePt {
  xPt: number;
  yPt: number;
}

/** A pen that is led along an instrument's edge from where it came down until it is lifted, and what it measures so. */
export class EdgeWalk {
  private swept = 0;

  private constructor(
    private readonly piece: InstrumentPiece,
    private last: OnEdge,
  ) {}

  /** @param reachPt how near the pen must come down to be led. @returns `null` where no edge is near */
  static from(piece: InstrumentPiece, pen: PlacePt, reachPt: number): EdgeWalk | null {
    const begun = onEdge(piece.content, piece.frame, pen, reachPt);
    return begun && new EdgeWalk(piece, begun);
  }

  /** Where on the edge a pen at a place writes. */
  to(pen: PlacePt): PlacePt {
    const { content, frame } = this.piece;
    const now = onEdge(content, frame, pen, Infinity, this.last.edge)!;
    this.swept += this.shortest(now.along - this.last.along);
    this.last = now;
    return { xPt: now.xPt, yPt: now.yPt };
  }

  /** What has been drawn so far: a length, or an angle about a middle with compasses' radius. */
  get reading(): string {
    const { content } = this.piece;
    const edge = this.edge;
    if (edge.kind === 'line') return lengthText(Math.abs(this.swept), content.scale);
    const angle = sweepText(this.swept / edge.radius);
    return content.instrument === 'compasses' ? `r ${lengthText(edge.radius, content.scale)}  ${angle}` : angle;
  }

  /** Once around, a circle begins anew: of the two ways there, a pen went the shorter one. */
  private shortest(along: number): number {
    const edge = this.edge;
    if (edge.kind === 'line') return along;
    const around = 2 * Math.PI * edge.radius;
    return along - Math.round(along / around) * around;
  }

  private get edge() {
    return edgesOf(this.piece.content, this.piece.frame)[this.last.edge];
  }
}
