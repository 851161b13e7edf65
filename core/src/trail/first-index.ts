/**
 * The first of `count` indices at which something holds that, once it holds, goes on holding; `count` where it never does.
 * Found by bisection.
 */
export function firstIndex(count: number, holds: (index: number) => boolean): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
