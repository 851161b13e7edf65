import { markupText } from '../markup-text';
import type { InkPoints } from '../../ink/points';
import type { Matrix } from '../../lesson/matrix';
import type { Pen } from '../../lesson/piece';
import type { RectPt } from '../../lesson/rect';

/** A stroke as it goes out. */
export interface WrittenStroke {
  pen: Pen;
  opacity: number;
  points: InkPoints;
  /** Where its points have been moved to; `null` where they were not. */
  matrix: Matrix | null;
  /** When it was begun; `null` where nobody knows. */
  atMs: number | null;
}

/** A page, and what was written on it. */
export interface WrittenInk {
  title: string;
  rect: RectPt;
  strokes: readonly WrittenStroke[];
}

const PRESSURE_STEPS = 255;
/** Lengths lie on a grid of 1/32 pt: so many decimals say them exactly. */
const DECIMALS = 5;

/**
 * Writes the ink of pages as an InkML document: a context and a canvas a page, brushes, and of each point X and Y in points, force in 255ths,
 * and time in milliseconds since the trace began; of pens that tell it, how they lean, in degrees.
 * Source: W3C Recommendation "Ink Markup Language (InkML)", 20 September 2011.
 */
export function writeInkMl(title: string, pages: readonly WrittenInk[]): string {
  const brushes = new Map<string, string>();
  const groups = pages.map((page, n) => groupOf(page, n, brushes));
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<ink xmlns="http://www.w3.org/2003/InkML">',
    `<annotation type="title">${markupText(title)}</annotation>`,
    '<definitions>',
    FORMAT,
    '<timestamp xml:id="beginning" time="0"/>',
    ...[...brushes].map(([brush, id]) => `<brush xml:id="${id}">${brush}</brush>`),
    ...pages.map(contextOf),
    '</definitions>',
    ...groups,
    '</ink>',
    '',
  ].join('\n');
}

const FORMAT = [
  '<traceFormat xml:id="points">',
  '<channel name="X" type="decimal" units="pt"/>',
  '<channel name="Y" type="decimal" units="pt"/>',
  `<channel name="F" type="integer" min="0" max="${PRESSURE_STEPS}"/>`,
  '<channel name="T" type="integer" units="ms"/>',
  // Few pens tell how they lean: where they do, it follows.
  '<intermittentChannels>',
  '<channel name="OTx" type="integer" units="deg"/>',
  '<channel name="OTy" type="integer" units="deg"/>',
  '</intermittentChannels>',
  '</traceFormat>',
].join('\n');

const contextOf = ({ rect: { left, top, right, bottom } }: WrittenInk, n: number): string =>
  [
    `<canvas xml:id="page-${n + 1}"><traceFormat>`,
    `<channel name="X" type="decimal" min="${number(left)}" max="${number(right)}" units="pt"/>`,
    `<channel name="Y" type="decimal" min="${number(top)}" max="${number(bottom)}" units="pt"/>`,
    '</traceFormat></canvas>',
    `<context xml:id="context-${n + 1}" traceFormatRef="#points" canvasRef="#page-${n + 1}" timestampRef="#beginning"/>`,
  ].join('\n');

/** @param brushes takes the brushes that are needed, by what they are, under their ids */
function groupOf({ title, strokes }: WrittenInk, n: number, brushes: Map<string, string>): string {
  const traces = strokes.map((stroke) => {
    const brush = brushOf(stroke);
    const id = brushes.get(brush) ?? `brush-${brushes.size + 1}`;
    brushes.set(brush, id);
    const at = stroke.atMs === null ? '' : ` timeOffset="${number(stroke.atMs)}"`;
    return `<trace brushRef="#${id}"${at}>${pointsOf(stroke)}</trace>`;
  });
  return [
    `<traceGroup contextRef="#context-${n + 1}">`,
    `<annotation type="title">${markupText(title)}</annotation>`,
    ...traces,
    '</traceGroup>',
  ].join('\n');
}

function brushOf({ pen: { kind, color, widthPt }, opacity }: WrittenStroke): string {
  const properties = [
    `<annotation type="pen">${kind}</annotation>`,
    `<brushProperty name="width" value="${number(widthPt)}" units="pt"/>`,
    `<brushProperty name="color" value="${color}"/>`,
    `<brushProperty name="transparency" value="${Math.round((1 - opacity) * 255)}"/>`,
  ];
  // Common practice for ink below which other ink stays to be seen.
  return [...properties, ...(kind === 'highlighter' ? ['<brushProperty name="rasterOp" value="maskPen"/>'] : [])].join(
    '',
  );
}

function pointsOf({ points: { xPt, yPt, pressure, sinceMs, tilt }, matrix }: WrittenStroke): string {
  const [a, b, c, d, e, f] = matrix ?? [1, 0, 0, 1, 0, 0];
  return Array.from(xPt, (x, i) => {
    const [left, top] = [a * x + c * yPt[i] + e, b * x + d * yPt[i] + f];
    const lean = tilt ? ` ${tilt.xDeg[i]} ${tilt.yDeg[i]}` : '';
    return `${number(left)} ${number(top)} ${Math.round(pressure[i] * PRESSURE_STEPS)} ${sinceMs[i]}${lean}`;
  }).join(', ');
}

/** A number without exponent, and with no more decimals than it needs. */
const number = (value: number): string => String(Number(value.toFixed(DECIMALS)) + 0);
