/**
 * Reads the bytes of a lesson as `docs/formats.md` describes them, and shares no code with the product: whoever has that page
 * can write this. Values come out as plain objects; places and lengths in points, times in samples and milliseconds.
 */

const PENS = ['pen', 'highlighter', 'ballpoint', 'fountain', 'pencil', 'marker', 'dashed', 'fading'];
const PAPERS = ['plain', 'ruled', 'squared', 'margin', 'dotted', 'isometric', 'polar', 'staves', 'handwriting', 'axes'];
const POINTERS = ['dot', 'spotlight', 'arrow', 'magnifier'];
const COMPOSED: Record<number, string> = { 3: 'text', 4: 'shape', 5: 'formula', 6: 'plot', 7: 'instrument' };
const MARKS = [
  '',
  'ink',
  'place',
  'lift',
  'turn',
  'add-page',
  'alter',
  'drop-page',
  'move-page',
  'alter-page',
  'look',
  'point',
  'transform',
  'arrange',
];
const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
const COORDINATES = [2, 2, 4, 6, 0];
const NEW = { opacity: 1, locked: false, group: null, link: null, handsOut: false };

type Plain = Record<string, unknown>;

class Bytes {
  at = 0;
  constructor(readonly all: Uint8Array) {}

  get isAtEnd(): boolean {
    return this.at === this.all.length;
  }

  byte(): number {
    if (this.at >= this.all.length) throw new Error('The bytes end too soon.');
    return this.all[this.at++];
  }

  whole(): number {
    let [value, factor] = [0, 1];
    for (;;) {
      const byte = this.byte();
      value += (byte % 128) * factor;
      if (byte < 128) return value;
      factor *= 128;
    }
  }

  signed(): number {
    const value = this.whole();
    return value % 2 === 1 ? -(value + 1) / 2 : value / 2;
  }

  length = () => this.whole() / 32;
  place = () => this.signed() / 32;
  fraction = () => this.whole() / 65_535;

  take(count: number): Uint8Array {
    if (this.at + count > this.all.length) throw new Error('The bytes end too soon.');
    this.at += count;
    return this.all.slice(this.at - count, this.at);
  }

  block = (): Bytes => new Bytes(this.take(this.whole()));
  rest = (): Uint8Array => this.take(this.all.length - this.at);
  ascii = (): string => String.fromCharCode(...this.rest());
  text = (): string => this.block().ascii();
  color = (): string => `#${[...this.take(3)].map((part) => part.toString(16).padStart(2, '0')).join('')}`;
  single = (): number => new DataView(this.take(4).buffer).getFloat32(0, true);
  double = (): number => new DataView(this.take(8).buffer).getFloat64(0, true);
  times = <T>(count: number, read: () => T): T[] => Array.from({ length: count }, read);

  /** @returns the version behind four letters, which must be these */
  version(letters: string): number {
    const found = String.fromCharCode(...this.take(4));
    if (found !== letters) throw new Error(`These bytes are ${found}, not ${letters}.`);
    return this.byte();
  }
}

class Tables {
  private readonly tables: Uint8Array[][];

  constructor(from: Bytes) {
    this.tables = from.times(10, () => from.times(from.whole(), () => from.block().all));
  }

  entry(table: number, number: number): Bytes {
    return new Bytes(this.tables[table][number]);
  }

  id(from: Bytes): string {
    const number = from.whole();
    const where = number === 0 ? from : this.entry(0, number - 1);
    const text = where.text();
    if (text !== '') return text;
    const bits = [...where.take(9)].map((byte) => byte.toString(2).padStart(8, '0')).join('');
    return bits
      .match(/.{6}/g)!
      .map((six) => LETTERS[parseInt(six, 2)])
      .join('');
  }

  ids(number: number): string[] {
    const entry = this.entry(8, number);
    const ids: string[] = [];
    while (!entry.isAtEnd) ids.push(this.id(entry));
    return ids;
  }

  json = (number: number): unknown => JSON.parse(this.entry(3, number).ascii());
}

function pointsIn(from: Bytes): Plain {
  const points = { xPt: [] as number[], yPt: [] as number[], pressure: [] as number[], sinceMs: [] as number[] };
  const count = from.whole();
  const steps: [number, number][] = [];
  let [ms, stepMs, pressure] = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    const lead = (axis: 0 | 1): number => {
      const last = steps[i - 1]?.[axis] ?? 0;
      return i < 2 ? last : last + (last - steps[i - 2][axis]);
    };
    steps.push([from.signed() + lead(0), from.signed() + lead(1)]);
    const packed = from.byte();
    const isPacked = packed !== 255;
    stepMs += isPacked ? Math.floor(packed / 51) - 2 : from.signed();
    pressure += isPacked ? (packed % 51) - 25 : from.signed();
    ms += stepMs;
    points.xPt.push(steps[i][0] / 32);
    points.yPt.push(steps[i][1] / 32);
    points.pressure.push(Math.fround(pressure / 255));
    points.sinceMs.push(ms);
  }
  return from.isAtEnd ? points : { ...points, tilt: tiltIn(from, count) };
}

function tiltIn(from: Bytes, count: number): Plain {
  const tilt = { xDeg: [] as number[], yDeg: [] as number[] };
  let [at, x, y] = [0, 0, 0];
  const lean = (until: number) => {
    for (; tilt.xDeg.length < until;) {
      tilt.xDeg.push(x);
      tilt.yDeg.push(y);
    }
  };
  while (!from.isAtEnd) {
    at += from.whole();
    lean(at);
    const packed = from.byte();
    const isPacked = packed !== 255;
    x += isPacked ? Math.floor(packed / 15) - 7 : from.signed();
    y += isPacked ? (packed % 15) - 7 : from.signed();
  }
  lean(count);
  return tilt;
}

function frameIn(from: Bytes): Plain {
  const [xPt, yPt, widthPt, heightPt] = [from.place(), from.place(), from.length(), from.length()];
  const turn = from.whole();
  const turnRad = (Math.floor(turn / 2) / 40_000) * 2 * Math.PI;
  return { xPt, yPt, widthPt, heightPt, turnRad, mirrored: turn % 2 === 1 };
}

function pathIn(from: Bytes, coordinate: () => number): number[] {
  const length = from.whole();
  const path: number[] = [];
  while (path.length < length) {
    const command = from.byte();
    path.push(command, ...from.times(COORDINATES[command], coordinate));
  }
  return path;
}

function drawingIn(entry: Bytes, tables: Tables): Plain {
  const size = { widthPt: entry.length(), heightPt: entry.length() };
  const letters = entry.times(entry.whole(), () => {
    const units = tables.entry(6, entry.whole());
    const outline = pathIn(units, () => units.signed());
    return { outline, xPt: entry.place(), yPt: entry.place(), sizePt: entry.length() };
  });
  const lines = entry.times(entry.whole(), () => {
    const path = pathIn(entry, () => entry.place());
    return { path, color: entry.byte() === 0 ? null : entry.color(), widthPt: entry.length() };
  });
  return { ...size, letters, lines };
}

const matrixOfSingles = (from: Bytes): number[] => from.times(6, () => from.single());

function pieceIn(from: Bytes, tables: Tables, code: number): Plain {
  const [id, z, flags] = [tables.id(from), from.signed(), from.byte()];
  const own = { ...NEW, ...(flags & 1 ? (tables.json(from.whole()) as Plain) : {}), id, z };
  if (code === 1) {
    const entry = tables.entry(1, from.whole());
    const pen = { kind: PENS[entry.byte()], color: entry.color(), widthPt: entry.length() };
    const matrix = flags & 2 ? matrixOfSingles(from) : null;
    const points = pointsIn(flags & 4 ? tables.entry(4, from.whole()) : from);
    return { ...own, kind: 'stroke', pen, matrix, points };
  }
  const frame = frameIn(from);
  if (code === 2) {
    const asset = tables.entry(2, from.whole()).ascii();
    const [left, top, right, bottom] = from.times(4, from.fraction);
    const entry = tables.entry(5, from.whole());
    const cutOut: number[] = [];
    while (!entry.isAtEnd) cutOut.push(Math.fround(entry.fraction()));
    return { ...own, kind: 'picture', asset, frame, crop: { left, top, right, bottom }, cutOut };
  }
  const content = tables.json(from.whole());
  return { ...own, kind: COMPOSED[code], frame, content, drawing: drawingIn(tables.entry(7, from.whole()), tables) };
}

function pageIn(from: Bytes): Plain {
  const [id, widthPt, heightPt] = [from.text(), from.length(), from.length()];
  const kind = PAPERS[from.byte()];
  const [color, lineColor, spacingPt] = [from.color(), from.color(), from.length()];
  const [leftPt, topPt, flags] = [from.place(), from.place(), from.byte()];
  const sheet = flags & 1 ? sheetIn(from) : null;
  const picture = flags & 2 ? from.text() : null;
  const scale = flags & 4 ? { perCm: from.double(), unit: JSON.parse(from.text()) as string } : null;
  return { id, leftPt, topPt, widthPt, heightPt, paper: { kind, color, lineColor, spacingPt, picture }, sheet, scale };
}

function sheetIn(from: Bytes): Plain {
  const [asset, index] = [from.text(), from.whole()];
  return { asset, pageIndex: index === 0 ? null : index - 1, widthPt: from.length(), heightPt: from.length() };
}

function recordIn(from: Bytes, tables: Tables, read: (from: Bytes, tables: Tables, code: number) => Plain): Plain {
  const code = from.byte();
  const content = from.block();
  if (code !== 0) return read(content, tables, code);
  const carried = tables.entry(9, content.whole());
  return { kind: 'carried', version: carried.byte(), code: content.byte() };
}

function markIn(from: Bytes, tables: Tables, code: number): Plain {
  const kind = MARKS[code];
  if (kind === 'add-page') return { kind, after: from.text() || null, page: pageIn(from) };
  if (kind === 'alter-page') return { kind, page: pageIn(from) };
  const page = tables.id(from);
  switch (kind) {
    case 'ink':
      return { kind, page, stroke: pieceIn(from, tables, 1) };
    case 'place':
    case 'alter':
      return { kind, page, pieces: from.times(from.whole(), () => recordIn(from, tables, pieceIn)) };
    case 'lift':
      return { kind, page, pieceIds: tables.ids(from.whole()) };
    case 'move-page':
      return { kind, page, after: from.text() || null };
    case 'look': {
      if (from.byte() === 0) return { kind, page, rect: null };
      const [left, top, right, bottom] = from.times(4, from.place);
      return { kind, page, rect: { left, top, right, bottom } };
    }
    case 'point':
      return { kind, page, pointing: { pointer: POINTERS[from.byte()], color: from.color(), points: pointsIn(from) } };
    case 'transform':
      return { kind, page, pieceIds: tables.ids(from.whole()), matrix: from.times(6, from.double) };
    case 'arrange':
      return { kind, page, pieces: from.times(from.whole(), () => arrangedIn(from, tables)) };
    default:
      return { kind, page };
  }
}

function arrangedIn(from: Bytes, tables: Tables): Plain {
  const arranged: Plain = { id: tables.id(from) };
  const flags = from.byte();
  if (flags & 1) arranged.z = from.signed();
  if (flags & 2) arranged.matrix = matrixOfSingles(from);
  if (flags & 4) arranged.frame = frameIn(from);
  if (flags & 8) arranged.matrix = null;
  return arranged;
}

export function readMarks(bytes: Uint8Array): Plain[] {
  const from = new Bytes(bytes);
  from.version('KTmk');
  const tables = new Tables(from.block());
  let atSamples = 0;
  return from.times(from.whole(), () => {
    atSamples += from.signed();
    return { atSamples, ...recordIn(from, tables, markIn) };
  });
}

export function readPieces(bytes: Uint8Array): Plain[] {
  const from = new Bytes(bytes);
  from.version('KTpc');
  const tables = new Tables(from.block());
  return from.times(from.whole(), () => recordIn(from, tables, pieceIn));
}

/** What a link plays: pages with their pieces, and the marks of the programme. */
export function readPayload(bytes: Uint8Array): { lengthSamples: number; pages: Plain[]; marks: Plain[] } {
  const from = new Bytes(bytes);
  from.version('KTwp');
  const lengthSamples = from.whole();
  const added = readMarks(from.block().all);
  const pages = added.map(({ page }) => ({ page, pieces: readPieces(from.block().all) }));
  return { lengthSamples, pages, marks: readMarks(from.block().all) };
}

/** A part of a take: how long the take is by now, its marks, those not finished, and the next bytes of its sound. */
export function readTakePart(bytes: Uint8Array): Plain {
  const from = new Bytes(bytes);
  from.version('KTtp');
  const toSamples = from.whole();
  const [marks, unfinished] = [readMarks(from.block().all), readMarks(from.block().all)];
  return { toSamples, marks, unfinished, sound: [...from.block().all] };
}
