import { FormatError } from '../bytes';
import type { Matrix } from '../../lesson/matrix';
import type { InkBrush } from './ink-file';
import { stepPt, UNKNOWN_PT, unitMs, unitPt } from './units';
import { childNamed, childrenNamed, type Element } from './xml';
import type { Channel } from './trace-data';

/** A channel, and what its numbers mean. */
export interface MeantChannel extends Channel {
  /** Points for each unit of X, Y and widths; milliseconds of T; degrees of orientations; 1 of all others. */
  scale: number;
  /** Between which numbers force lies; `null` where that is not told. */
  least: number | null;
  most: number | null;
}

/** What holds for a trace: of its context, its groups, and itself. */
export interface Setting {
  channels: readonly MeantChannel[];
  brush: InkBrush;
  canvas: string | null;
  /** From what the device says to the canvas. */
  matrix: Matrix | null;
  /** When the context's clock begins, in milliseconds of the file's. */
  clockMs: number;
}

const NO_BRUSH: InkBrush = { color: null, widthPt: null, opacity: null, isHighlighter: false, pen: null };
const regular = (name: string): MeantChannel => ({
  name,
  isIntermittent: false,
  scale: UNKNOWN_PT,
  least: null,
  most: null,
});

/** Where nothing is told, a trace is of X and Y (section 3.1.1). */
export const DEFAULT_SETTING: Setting = {
  channels: [regular('X'), regular('Y')],
  brush: NO_BRUSH,
  canvas: null,
  matrix: null,
  clockMs: 0,
};

/** References may lead on to others, but not for ever. */
const MOST_REFERENCES = 20;

/** Works out what holds in a document's contexts, where one may refer to others (sections 3 to 5). */
export class Settings {
  private readonly named = new Map<string, Element>();

  constructor(document: Element) {
    const walk = (element: Element) => {
      const id = element.attributes.get('id');
      if (id !== undefined) this.named.set(id, element);
      element.children.forEach(walk);
    };
    walk(document);
  }

  /** What an element of the same document is referred to by; what is elsewhere is not fetched. */
  referred(element: Element, attribute: string): Element | undefined {
    const at = element.attributes.get(attribute);
    return at?.startsWith('#') ? this.named.get(at.slice(1)) : undefined;
  }

  /** What holds in a trace or a group of traces, within what holds around it. */
  within(element: Element, around: Setting): Setting {
    const context = this.referred(element, 'contextRef');
    const brush = this.referred(element, 'brushRef');
    const setting = context ? this.ofContext(context, around) : around;
    return brush ? { ...setting, brush: this.brushOf(brush, NO_BRUSH) } : setting;
  }

  /** What a `<context>` says, over what it refers to and what holds around it (section 4.1). */
  ofContext(context: Element, around: Setting, references = 0): Setting {
    if (references > MOST_REFERENCES)
      throw new FormatError('In this InkML file contexts refer to one another in a circle.');
    const other = this.referred(context, 'contextRef');
    const setting = other ? this.ofContext(other, around, references + 1) : around;
    const part = (name: string) => childNamed(context, name) ?? this.referred(context, `${name}Ref`);
    const source = part('inkSource');
    const format = part('traceFormat') ?? (source && childNamed(source, 'traceFormat'));
    const canvas = part('canvas');
    const transform = part('canvasTransform');
    const brush = part('brush');
    const clock = part('timestamp');
    return {
      channels: format ? channelsOf(format, source) : setting.channels,
      brush: brush ? this.brushOf(brush, setting.brush) : setting.brush,
      canvas: canvas ? (canvas.attributes.get('id') ?? null) : setting.canvas,
      matrix: transform ? this.matrixOf(transform) : setting.matrix,
      clockMs: clock ? this.clockOf(clock) : setting.clockMs,
    };
  }

  private brushOf(brush: Element, inherited: InkBrush, references = 0): InkBrush {
    if (references > MOST_REFERENCES)
      throw new FormatError('In this InkML file brushes refer to one another in a circle.');
    const other = this.referred(brush, 'brushRef');
    const found = { ...(other ? this.brushOf(other, inherited, references + 1) : inherited) };
    for (const property of childrenNamed(brush, 'brushProperty')) {
      const value = property.attributes.get('value') ?? '';
      const number = Number(value);
      switch (property.attributes.get('name')) {
        case 'width':
          if (number > 0) found.widthPt = number * (unitPt(property.attributes.get('units')) ?? UNKNOWN_PT);
          break;
        case 'color':
          if (/^#[0-9a-f]{6}$/i.test(value)) found.color = value.toLowerCase();
          break;
        case 'transparency':
          // Common practice: 0 hides all that is below, 255 nothing.
          if (number >= 0 && number <= 255) found.opacity = 1 - number / 255;
          break;
        case 'rasterOp':
          // Common practice for what lets ink below be seen.
          found.isHighlighter = value === 'maskPen';
          break;
      }
    }
    const note = childrenNamed(brush, 'annotation').find((one) => one.attributes.get('type') === 'pen');
    if (note) found.pen = note.text.trim();
    return found;
  }

  /** Only lines that stay lines can be followed: other mappings are left out (section 3.3). */
  private matrixOf(transform: Element): Matrix | null {
    const mapping = childNamed(transform, 'mapping') ?? this.referred(transform, 'mappingRef');
    const affine = mapping?.attributes.get('type') === 'affine' ? childNamed(mapping, 'affine') : undefined;
    const rows = affine?.text.split(',').map((row) => row.trim().split(/\s+/).map(Number)) ?? [];
    if (rows.length !== 2 || rows.some((row) => row.length !== 3 || !row.every(Number.isFinite))) return null;
    const [[a, c, e], [b, d, f]] = rows;
    return [a, b, c, d, e, f];
  }

  private clockOf(clock: Element, references = 0): number {
    if (references > MOST_REFERENCES)
      throw new FormatError('In this InkML file clocks refer to one another in a circle.');
    const other = this.referred(clock, 'timestampRef');
    const said = clock.attributes.get('time');
    const date = clock.attributes.get('timeString');
    const beginMs = other
      ? this.clockOf(other, references + 1)
      : said !== undefined
        ? Number(said)
        : Date.parse(date ?? '');
    const offsetMs = Number(clock.attributes.get('timeOffset') ?? 0);
    return (Number.isFinite(beginMs) ? beginMs : 0) + (Number.isFinite(offsetMs) ? offsetMs : 0);
  }
}

function channelsOf(format: Element, source: Element | undefined): MeantChannel[] {
  const properties = source && childNamed(source, 'channelProperties');
  const sometimes = childrenNamed(format, 'intermittentChannels').flatMap((one) => childrenNamed(one, 'channel'));
  return [
    ...childrenNamed(format, 'channel').map((one) => channelOf(one, properties, false)),
    ...sometimes.map((one) => channelOf(one, properties, true)),
  ];
}

function channelOf({ attributes }: Element, properties: Element | undefined, isIntermittent: boolean): MeantChannel {
  const name = attributes.get('name') ?? '';
  const units = attributes.get('units');
  const limit = (which: string) => {
    const value = Number(attributes.get(which) ?? NaN);
    return Number.isFinite(value) ? value : null;
  };
  return { name, isIntermittent, scale: scaleOf(name, units, properties), least: limit('min'), most: limit('max') };
}

/** How a pen leans or points: degrees, unless they are said to be radians. */
const ORIENTATIONS = ['OTx', 'OTy', 'OA', 'OE'];

function scaleOf(name: string, units: string | undefined, properties: Element | undefined): number {
  if (name === 'T') return unitMs(units);
  if (ORIENTATIONS.includes(name)) return units === 'rad' ? 180 / Math.PI : 1;
  if (!['X', 'Y', 'Z', 'W'].includes(name)) return 1;
  const length = unitPt(units);
  if (length !== null) return length;
  const resolution = (properties ? childrenNamed(properties, 'channelProperty') : []).find(
    ({ attributes }) => attributes.get('channel') === name && attributes.get('name') === 'resolution',
  );
  const said = resolution?.attributes;
  return (said && stepPt(Number(said.get('value')), said.get('units') ?? '')) ?? UNKNOWN_PT;
}
