import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

/** What all processes of a browser hold together (proportional set size: shared pages counted once). */
export function processesMb(pid: number): number {
  const children = execFileSync('ps', ['-eo', 'pid=,ppid='], { encoding: 'utf8' })
    .trim()
    .split('\n')
    .map((row) => row.trim().split(/\s+/).map(Number));
  const family = new Set([pid]);
  for (let size = 0; size !== family.size;) {
    size = family.size;
    for (const [child, parent] of children) if (family.has(parent)) family.add(child);
  }
  let kb = 0;
  for (const member of family) {
    try {
      kb += Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${member}/smaps_rollup`, 'utf8'))?.[1] ?? 0);
    } catch {
      // It has ended meanwhile.
    }
  }
  return kb / 1024;
}
