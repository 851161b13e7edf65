/** The units of lengths in InkML (section 3.1.2, "units"), in points; pixels are those of CSS, and `himetric` is common practice. */
const LENGTHS_PT: Record<string, number> = {
  m: 72 / 0.0254,
  cm: 72 / 2.54,
  mm: 72 / 25.4,
  in: 72,
  pt: 1,
  pc: 12,
  px: 0.75,
  himetric: 72 / 2540,
};

/** Where nothing says how large a unit is, it is taken for a pixel. */
export const UNKNOWN_PT = LENGTHS_PT.px;

/** How many points a unit is; `null` of one that is no length. */
export const unitPt = (unit: string | undefined): number | null => LENGTHS_PT[unit ?? ''] ?? null;

/** How many points a step of a device is that has so many of them a length, such as 1000 `1/cm` (or `1000 dev/in`). */
export function stepPt(value: number, units: string): number | null {
  const length = unitPt(units.split('/')[1]?.trim());
  return length !== null && value > 0 ? length / value : null;
}

const TIMES_MS: Record<string, number> = { s: 1000, ms: 1, us: 0.001, ns: 0.000_001 };

/** How many milliseconds a unit is; InkML's own is the millisecond. */
export const unitMs = (unit: string | undefined): number => TIMES_MS[unit ?? 'ms'] ?? 1;
