import type { Contents } from '../lesson/content';
import type { Frame } from '../lesson/frame';
import { HINGE_RISE_PT, PROTRACTOR_STRIP_PT, protractorRadius, PT_PER_CM } from '../measuring/instrument';
import { paintNumber } from './numerals';
import type { Surface } from './surface';

const BODY = 'rgba(233, 196, 106, 0.34)';
const EDGE = 'rgba(122, 84, 10, 0.85)';
const MARKS = '#3d3208';
const LINE_PT = 0.75;

/** Paints a ruler, set square, protractor or compasses, on a surface whose origin is the middle of its frame. */
export function paintInstrument(surface: Surface, content: Contents['instrument'], frame: Frame): void {
  surface.lineWidth = LINE_PT;
  surface.lineCap = 'butt';
  surface.strokeStyle = EDGE;
  surface.fillStyle = BODY;
  const flip = frame.mirrored ? -1 : 1;
  switch (content.instrument) {
    case 'ruler':
      return paintRuler(surface, content, frame, flip);
    case 'set-square':
      return paintSetSquare(surface, content, frame, flip);
    case 'protractor':
      return paintProtractor(surface, frame, flip);
    case 'compasses':
      return paintCompasses(surface, frame);
  }
}

function body(surface: Surface, corners: readonly (readonly [number, number])[]): void {
  surface.beginPath();
  corners.forEach(([x, y], i) => (i === 0 ? surface.moveTo(x, y) : surface.lineTo(x, y)));
  surface.closePath();
  surface.fill();
  surface.stroke();
}

function line(surface: Surface, fromX: number, fromY: number, toX: number, toY: number): void {
  surface.beginPath();
  surface.moveTo(fromX, fromY);
  surface.lineTo(toX, toY);
  surface.stroke();
}

/** Steps between marks that make round numbers of the page's unit, at least so many points apart. */
function stepOf({ scale }: Contents['instrument'], leastPt: number): { valueStep: number; stepPt: number } {
  const ptPerUnit = PT_PER_CM / scale.perCm;
  const least = leastPt / ptPerUnit;
  const power = 10 ** Math.floor(Math.log10(least));
  const valueStep = [1, 2, 5, 10].map((share) => share * power).find((step) => step >= least * (1 - 1e-9))!;
  return { valueStep, stepPt: valueStep * ptPerUnit };
}

/** Marks along an edge from a corner, every tenth of a numbered step, drawn inwards. */
function graduate(
  surface: Surface,
  content: Contents['instrument'],
  length: number,
  mark: (alongPt: number, share: number) => void,
  number: (alongPt: number, text: string) => void,
): void {
  const { valueStep, stepPt } = stepOf(content, 0.95 * PT_PER_CM);
  surface.strokeStyle = MARKS;
  surface.lineWidth = LINE_PT * 0.7;
  for (let n = 0; (n * stepPt) / 10 <= length + 0.01; n++) {
    mark((n * stepPt) / 10, n % 10 === 0 ? 1 : n % 5 === 0 ? 0.7 : 0.45);
    if (n % 10 === 0 && n > 0 && (n * stepPt) / 10 < length - 6) {
      number((n * stepPt) / 10, String(Number(((n / 10) * valueStep).toPrecision(6))));
    }
  }
}

const LONGEST_MARK_PT = 11;
const NUMBER_PT = 9;

function paintRuler(surface: Surface, content: Contents['instrument'], frame: Frame, flip: number): void {
  const [right, bottom] = [frame.widthPt / 2, frame.heightPt / 2];
  body(surface, [
    [-right, -bottom],
    [right, -bottom],
    [right, bottom],
    [-right, bottom],
  ]);
  graduate(
    surface,
    content,
    frame.widthPt,
    (along, share) => line(surface, along - right, -bottom, along - right, -bottom + LONGEST_MARK_PT * share),
    (along, text) => paintNumber(surface, text, along - right, -bottom + LONGEST_MARK_PT + 8, NUMBER_PT, MARKS, flip),
  );
}

function paintSetSquare(surface: Surface, content: Contents['instrument'], frame: Frame, flip: number): void {
  const [right, bottom] = [frame.widthPt / 2, frame.heightPt / 2];
  body(surface, [
    [-right, -bottom],
    [right, bottom],
    [-right, bottom],
  ]);
  const inner = 0.36;
  surface.strokeStyle = EDGE;
  surface.beginPath();
  const corners = [
    [-right + frame.widthPt * 0.16, bottom - frame.heightPt * (inner + 0.16)],
    [-right + frame.widthPt * (inner + 0.16), bottom - frame.heightPt * 0.16],
    [-right + frame.widthPt * 0.16, bottom - frame.heightPt * 0.16],
  ];
  corners.forEach(([x, y], i) => (i === 0 ? surface.moveTo(x, y) : surface.lineTo(x, y)));
  surface.closePath();
  surface.stroke();
  graduate(
    surface,
    content,
    frame.widthPt,
    (along, share) => line(surface, along - right, bottom, along - right, bottom - LONGEST_MARK_PT * share),
    (along, text) => paintNumber(surface, text, along - right, bottom - LONGEST_MARK_PT - 8, NUMBER_PT, MARKS, flip),
  );
}

function paintProtractor(surface: Surface, frame: Frame, flip: number): void {
  const radius = protractorRadius(frame);
  const foot = frame.heightPt / 2 - PROTRACTOR_STRIP_PT;
  surface.beginPath();
  surface.arc(0, foot, radius, Math.PI, 2 * Math.PI);
  surface.lineTo(radius, foot + PROTRACTOR_STRIP_PT);
  surface.lineTo(-radius, foot + PROTRACTOR_STRIP_PT);
  surface.closePath();
  surface.fill();
  surface.stroke();
  surface.strokeStyle = MARKS;
  surface.lineWidth = LINE_PT * 0.7;
  line(surface, -radius, foot, radius, foot);
  line(surface, 0, foot - 8, 0, foot + 8);
  for (let degrees = 0; degrees <= 180; degrees++) {
    const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const length = LONGEST_MARK_PT * (degrees % 10 === 0 ? 1 : degrees % 5 === 0 ? 0.7 : 0.4);
    line(surface, cos * radius, foot - sin * radius, cos * (radius - length), foot - sin * (radius - length));
    if (degrees % 10 !== 0 || degrees % 180 === 0) continue;
    const at = radius - LONGEST_MARK_PT - 9;
    paintNumber(surface, String(degrees), cos * at, foot - sin * at, NUMBER_PT * 0.9, MARKS, flip);
  }
}

/** Seen from the side, as on a blackboard: a point, a pencil and the hinge between them. */
function paintCompasses(surface: Surface, frame: Frame): void {
  const half = frame.widthPt / 2;
  surface.setLineDash([4, 4]);
  surface.beginPath();
  surface.arc(-half, 0, frame.widthPt, 0, 2 * Math.PI);
  surface.stroke();
  surface.setLineDash([]);
  surface.strokeStyle = MARKS;
  surface.lineWidth = LINE_PT;
  line(surface, -half - 6, 0, -half + 6, 0);
  line(surface, -half, -6, -half, 6);
  surface.lineCap = 'round';
  surface.strokeStyle = EDGE;
  surface.lineWidth = 5;
  line(surface, -half, 0, 0, -HINGE_RISE_PT);
  line(surface, half, 0, 0, -HINGE_RISE_PT);
  surface.fillStyle = '#e9c46a';
  surface.lineWidth = 1.5;
  surface.beginPath();
  surface.arc(0, -HINGE_RISE_PT, 8, 0, 2 * Math.PI);
  surface.fill();
  surface.stroke();
}
