/** Whether a place lies within a closed line of x, y pairs, by the even–odd rule: a ray from it crosses the line an odd number of times. */
export function isWithin(line: ArrayLike<number>, x: number, y: number): boolean {
  let within = false;
  for (let i = 0, j = line.length - 2; i < line.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [line[i], line[i + 1], line[j], line[j + 1]];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) within = !within;
  }
  return within;
}

/** Whether a closed line of x, y pairs winds around a place, by the non-zero rule by which canvases fill paths. */
export function windsAround(line: ArrayLike<number>, x: number, y: number): boolean {
  let winding = 0;
  for (let i = 0, j = line.length - 2; i < line.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [line[j], line[j + 1], line[i], line[i + 1]];
    if (ay > y === by > y) continue;
    if (x < ((bx - ax) * (y - ay)) / (by - ay) + ax) winding += by > ay ? 1 : -1;
  }
  return winding !== 0;
}
