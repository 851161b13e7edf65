import { Blob, Buffer, Direction, Face, Font, shape } from 'harfbuzzjs';
import { UNITS_PER_EM } from '../drawing/drawing';
import { CLOSE, CUBIC, LINE, MOVE, QUADRATIC, type Path } from '../drawing/path';
import { unpackedFont } from './woff';

/** A glyph that is set: its outline, and where it stands along its line and above it, in thousandths of its size. */
export interface SetGlyph {
  outline: Path;
  x: number;
  y: number;
}

/** What a run of text looks like, and how far the next one stands from it, in thousandths of its size. */
export interface SetRun {
  glyphs: readonly SetGlyph[];
  advance: number;
}

/** What needs no glyph of its own: joiners, variation selectors, marks of direction, soft hyphens (UAX #44). */
const GOES_ALONG = /^\p{Default_Ignorable_Code_Point}$/u;
const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** What is seen as one letter each, however many code points it is made of (UAX #29). */
export const lettersOf = (text: string): string[] => Array.from(graphemes.segment(text), ({ segment }) => segment);

/** One font file, ready to be set from. */
export class FontFile {
  private readonly font: Font;
  private readonly outlines = new Map<number, Path>();

  /** @param file OpenType or WOFF 1 */
  constructor(file: ArrayBuffer) {
    this.font = new Font(new Face(new Blob(unpackedFont(file))));
    this.font.setScale(UNITS_PER_EM, UNITS_PER_EM);
  }

  /** How far letters rise above the line they stand on, and hang below it, in thousandths. */
  get extents(): { ascender: number; descender: number } {
    return this.font.hExtents();
  }

  has(letter: string): boolean {
    return Array.from(letter).every(
      (one) => GOES_ALONG.test(one) || this.font.nominalGlyph(one.codePointAt(0)!) !== undefined,
    );
  }

  /** Sets letters that are read in one direction: joined, kerned, with their marks where they belong. */
  set(text: string, isRightToLeft: boolean): SetRun {
    const buffer = new Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    buffer.setDirection(isRightToLeft ? Direction.RTL : Direction.LTR);
    shape(this.font, buffer);
    const places = buffer.getGlyphPositions();
    let advance = 0;
    const glyphs = buffer.getGlyphInfos().map(({ codepoint: glyph }, i): SetGlyph => {
      const { xAdvance, xOffset, yOffset } = places[i];
      const set = { outline: this.outlineOf(glyph), x: advance + xOffset, y: yOffset };
      advance += xAdvance;
      return set;
    });
    return { glyphs, advance };
  }

  /** Fonts have y upwards, pages downwards. */
  private outlineOf(glyph: number): Path {
    const known = this.outlines.get(glyph);
    if (known) return known;
    const commands = { M: MOVE, L: LINE, Q: QUADRATIC, C: CUBIC, Z: CLOSE };
    const outline = this.font
      .glyphToJson(glyph)
      .flatMap(({ type, values }) => [
        commands[type as keyof typeof commands],
        ...values.map((value, i) => Math.round(i % 2 === 0 ? value : -value) + 0),
      ]);
    this.outlines.set(glyph, outline);
    return outline;
  }
}

/** A font in one weight, made of files for several scripts: each letter comes from the first that has it. */
export class Typeface {
  /** @param files the most important first */
  constructor(private readonly files: readonly FontFile[]) {}

  /** How far letters rise above the line they stand on, as a share of their size. */
  get rise(): number {
    const { ascender, descender } = this.files[0].extents;
    // Some fonts leave much room around their letters; lines are set alike in all of them.
    const share = ascender / (ascender - descender);
    return Math.min(ascender / UNITS_PER_EM, 1.25 * share);
  }

  /** Whether any file has this letter: a box stands in for one that none has. */
  has(letter: string): boolean {
    return this.files.some((file) => file.has(letter));
  }

  /** A text's parts, each with the file its letters come from. */
  parts(text: string): { text: string; file: FontFile }[] {
    const parts: { text: string; file: FontFile }[] = [];
    for (const letter of lettersOf(text)) {
      const last = parts.at(-1);
      // Spaces go with what is before them.
      const file = letter === ' ' && last ? last.file : (this.files.find((one) => one.has(letter)) ?? this.files[0]);
      if (last?.file === file) last.text += letter;
      else parts.push({ text: letter, file });
    }
    return parts;
  }
}
