import type { Pen } from '../lesson/piece';

/** How the ink of a kind of pen lies on the page. */
export interface InkStyle {
  /** The ink's width at middling pressure, as a share of the pen's. */
  widthShare: number;
  /** How much pressure tells: 0 not at all, 1 from nothing to twice the width. */
  thinning: number;
  /** 0 to 1. */
  opacity: number;
  /** Painted as a line of one width along its path, not as an outline. */
  isLine: boolean;
  /** A broad nib is held at this angle (radians): strokes along it are thin, strokes across it broad. */
  nibRad: number | null;
}

const PEN: InkStyle = { widthShare: 1.25, thinning: 0.55, opacity: 1, isLine: false, nibRad: null };

const STYLES: Record<Pen['kind'], InkStyle> = {
  pen: PEN,
  ballpoint: { ...PEN, widthShare: 1.05, thinning: 0.12 },
  fountain: { ...PEN, widthShare: 1.5, thinning: 0.6, nibRad: -Math.PI / 4 },
  pencil: { ...PEN, widthShare: 1.1, thinning: 0.35, opacity: 0.68 },
  marker: { ...PEN, widthShare: 1.8, thinning: 0, opacity: 0.88 },
  dashed: { ...PEN, widthShare: 1, thinning: 0, isLine: true },
  fading: { ...PEN, widthShare: 1.8, thinning: 0.2, opacity: 0.85 },
  highlighter: { ...PEN, widthShare: 1, thinning: 0, opacity: 0.42, isLine: true },
};

export const inkStyle = ({ kind }: Pen): InkStyle => STYLES[kind];

/** How far a pen's ink may reach to either side of its path, in points. */
export function inkReachPt(pen: Pen): number {
  const { widthShare, thinning } = inkStyle(pen);
  return (pen.widthPt * widthShare * (1 + thinning)) / 2;
}
