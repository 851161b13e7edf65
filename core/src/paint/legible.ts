/** What lines need (WCAG 2.2, criterion 1.4.11). */
const LEAST_CONTRAST = 3;
/** Writing in light ink on a dark ground blooms, and is read as text is (criterion 1.4.3). */
const LEAST_ON_DARK = 4.5;
const STEP = 0.02;
const cache = new Map<string, string>();

/**
 * The colour a pen's ink takes on a paper so that it can be read: its own where it stands out by 3 : 1, on dark paper by
 * 4.5 : 1; else a darker one, or, on dark paper, a lighter one of the same hue, so that colours stay apart.
 */
export function legibleInk(ink: string, paper: string): string {
  const key = ink + paper;
  let legible = cache.get(key);
  if (!legible) {
    legible = standingOut(ink, paper);
    cache.set(key, legible);
  }
  return legible;
}

export const isDark = (color: string): boolean => luminance(rgbOf(color)) < 0.18;

/** The contrast ratio of two colours, 1 to 21 (WCAG 2.2, "contrast ratio"). */
export function contrast(a: string, b: string): number {
  const [darker, lighter] = [luminance(rgbOf(a)), luminance(rgbOf(b))].sort((x, y) => x - y);
  return (lighter + 0.05) / (darker + 0.05);
}

function standingOut(ink: string, paper: string): string {
  const onDark = isDark(paper);
  const least = onDark ? LEAST_ON_DARK : LEAST_CONTRAST;
  const rgb = rgbOf(ink);
  for (let share = 0; share < 1; share += STEP) {
    const mixed = onDark ? lighter(rgb, share) : hexOf(rgb.map((value) => value * (1 - share)));
    if (contrast(mixed, paper) >= least) return mixed;
  }
  return onDark ? '#ffffff' : '#000000';
}

/** A colour with more lightness, its hue and saturation kept (CSS Color 4, HSL). @param share 0 for its own, 1 for white */
function lighter(rgb: readonly number[], share: number): string {
  if (share === 0) return hexOf(rgb);
  const parts = rgb.map((value) => value / 255);
  const [least, most] = [Math.min(...parts), Math.max(...parts)];
  const lightness = (least + most) / 2;
  const wanted = lightness + (1 - lightness) * share;
  const room = (of: number) => 1 - Math.abs(2 * of - 1);
  // At every lightness, how far the parts spread is the saturation's share of the room there is.
  const spread = room(lightness) === 0 ? 0 : room(wanted) / room(lightness);
  return hexOf(parts.map((part) => (wanted + (part - lightness) * spread) * 255));
}

function luminance(rgb: readonly number[]): number {
  const [r, g, b] = rgb.map((value) => {
    const part = value / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

const rgbOf = (color: string): number[] => [1, 3, 5].map((at) => parseInt(color.slice(at, at + 2), 16));
const hexOf = (rgb: readonly number[]): string =>
  '#' + rgb.map((value) => Math.round(value).toString(16).padStart(2, '0')).join('');
