import { median } from './figures';

/**
 * A fixed workload of the kinds our own code is made of (numbers in typed arrays, small objects in maps, short texts), to tell
 * how fast the machine is just now: machines differ by a factor of two and more, and so do the hours of one. It must never be
 * changed, or old ratios say nothing any more.
 */
function referenceWorkload(): number {
  let state = 12_345;
  const random = () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
  const numbers = Float64Array.from({ length: 200_000 }, random).sort();
  const counts = new Map<string, { sum: number; count: number }>();
  for (let i = 0; i < numbers.length; i++) {
    const key = `k${Math.floor(numbers[(i * 7919) % numbers.length] * 5000)}`;
    const known = counts.get(key);
    if (known) {
      known.sum += numbers[i];
      known.count++;
    } else {
      counts.set(key, { sum: numbers[i], count: 1 });
    }
  }
  let total = 0;
  for (const [key, { sum, count }] of counts) total += Math.sin(sum / count) * key.length;
  return total;
}

const RUNS = 5;

/** How long the reference takes just now, in milliseconds. */
export function referenceMs(): number {
  return median(
    Array.from({ length: RUNS }, () => {
      const start = performance.now();
      referenceWorkload();
      return performance.now() - start;
    }),
  );
}
