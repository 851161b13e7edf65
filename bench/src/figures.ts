/** The value below which 95 % of all lie. */
export function p95(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * 0.95))];
}

export const rounded = (value: number, places = 2): number => Number(value.toFixed(places));

export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1];
