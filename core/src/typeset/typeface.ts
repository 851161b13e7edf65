import { parse, type Font, type Glyph } from 'opentype.js';
import { UNITS_PER_EM } from '../drawing/drawing';
import { CLOSE, CUBIC, LINE, MOVE, QUADRATIC, type Path } from '../drawing/path';

/** A letter as it is set: its outline, and how far the next one stands from it, in thousandths of its size. */
export interface SetLetter {
  outline: Path;
  advance: number;
  kerningTo(next: SetLetter): number;
  /** No font has it; a box stands in for it. */
  isMissing: boolean;
}

/** A font in one weight, made of files for several scripts: each letter comes from the first that has it. */
export class Typeface {
  private readonly fonts: Font[];
  private readonly letters = new Map<string, SetLetter>();

  /** @param files OpenType or WOFF 1 files, the most important first */
  constructor(files: readonly ArrayBuffer[]) {
    this.fonts = files.map((file) => parse(file));
  }

  /** How far letters rise above the line they stand on, as a share of their size. */
  get rise(): number {
    const { ascender, descender, unitsPerEm } = this.fonts[0];
    // Some fonts leave much room around their letters; lines are set alike in all of them.
    const share = ascender / (ascender - descender);
    return Math.min(ascender / unitsPerEm, 1.25 * share);
  }

  letter(letter: string): SetLetter {
    let set = this.letters.get(letter);
    if (!set) {
      set = this.set(letter);
      this.letters.set(letter, set);
    }
    return set;
  }

  private set(letter: string): SetLetter {
    const font = this.fonts.find((one) => one.hasChar(letter));
    const from = font ?? this.fonts[0];
    const glyph = from.charToGlyph(letter);
    const scale = UNITS_PER_EM / from.unitsPerEm;
    const own = { font: from, glyph };
    const set: SetLetter = {
      outline: outlineOf(glyph, scale),
      advance: (glyph.advanceWidth ?? 0) * scale,
      kerningTo: (next) => {
        const other = this.glyphs.get(next);
        return other?.font === own.font ? own.font.getKerningValue(own.glyph, other.glyph) * scale : 0;
      },
      isMissing: font === undefined,
    };
    this.glyphs.set(set, own);
    return set;
  }

  private readonly glyphs = new WeakMap<SetLetter, { font: Font; glyph: Glyph }>();
}

/** Fonts have y upwards, pages downwards. */
function outlineOf({ path }: Glyph, scale: number): Path {
  const to = (x: number, y: number) => [Math.round(x * scale) + 0, Math.round(-y * scale) + 0];
  return path.commands.flatMap((one) => {
    switch (one.type) {
      case 'M':
        return [MOVE, ...to(one.x, one.y)];
      case 'L':
        return [LINE, ...to(one.x, one.y)];
      case 'Q':
        return [QUADRATIC, ...to(one.x1, one.y1), ...to(one.x, one.y)];
      case 'C':
        return [CUBIC, ...to(one.x1, one.y1), ...to(one.x2, one.y2), ...to(one.x, one.y)];
      case 'Z':
        return [CLOSE];
    }
  });
}
