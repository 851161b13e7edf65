/**
 * A file's name for where others have it: `Knots.mp4`, then `Knots 2.mp4`, `Knots 3.mp4`, …
 * @param n from 1 on
 */
export function numberedName(name: string, n: number): string {
  const [, stem, ending = ''] = /^(.*?)(\.[^.]*)?$/s.exec(name)!;
  return n === 1 ? name : `${stem} ${n}${ending}`;
}
