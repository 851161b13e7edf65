const LEAST_CONTRAST = 3;
const cache = new Map<string, string>();

/**
 * The colour a pen's ink takes on a paper so that it can be read: its own where it stands out by 3 : 1 (WCAG 2.2,
 * criterion 1.4.11), else mixed with white or black, whichever the paper is farther from, until it does.
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
  const toward = isDark(paper) ? 255 : 0;
  const rgb = rgbOf(ink);
  for (let share = 0; share <= 1; share += 0.05) {
    const mixed = hexOf(rgb.map((value) => value + (toward - value) * share));
    if (contrast(mixed, paper) >= LEAST_CONTRAST) return mixed;
  }
  return hexOf([toward, toward, toward]);
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
