import { describe, expect, it } from 'vitest';
import { ellipse, textPaths } from './pen/letters';
import { curvatureAt, PEN_HZ, SimulatedPen } from './pen/simulated-pen';
import { recordedTake } from './record';
import { SCRIPTS } from './teaching/all';
import { performBeats } from './teaching/script';

describe('the simulated pen', () => {
  it('obeys the two-thirds power law: log speed falls by a third of log curvature (Lacquaniti et al. 1983)', () => {
    const points = new SimulatedPen().write(ellipse(300, 300, 60, 20));
    const path = Array.from(points.xPt, (x, i) => ({ x, y: points.yPt[i] }));
    const pairs: { k: number; v: number }[] = [];
    for (let i = 30; i < path.length - 30; i++) {
      const elapsed = (points.sinceMs[i + 4] - points.sinceMs[i - 4]) / 1000;
      let length = 0;
      for (let n = i - 3; n <= i + 4; n++) length += Math.hypot(path[n].x - path[n - 1].x, path[n].y - path[n - 1].y);
      const curvature = curvatureAt(path, i);
      if (curvature > 0.002) pairs.push({ k: Math.log(curvature), v: Math.log(length / elapsed) });
    }
    expect(pairs.length).toBeGreaterThan(100);
    const mean = (read: (pair: { k: number; v: number }) => number) =>
      pairs.reduce((sum, pair) => sum + read(pair), 0) / pairs.length;
    const [k, v] = [mean((pair) => pair.k), mean((pair) => pair.v)];
    const slope = mean((pair) => (pair.k - k) * (pair.v - v)) / mean((pair) => (pair.k - k) ** 2);
    expect(slope).toBeGreaterThan(-0.4);
    expect(slope).toBeLessThan(-0.26);
  });

  it('samples at 240 Hz with pressure that swells in and fades out', () => {
    const [path] = textPaths('l', 100, 100, 200);
    const points = new SimulatedPen().write(path);
    expect(points.count / (points.lengthMs / 1000)).toBeGreaterThan(PEN_HZ * 0.97);
    const middle = points.pressure[points.count >> 1];
    expect(points.pressure[0]).toBeLessThan(middle);
    expect(points.pressure[points.count - 1]).toBeLessThan(middle);
  });

  it('writes the same each time, and every letter the lessons need', () => {
    for (const script of SCRIPTS) expect(performBeats(script)).toEqual(performBeats(script));
  });

  it('says what it cannot write', () => {
    expect(() => textPaths('潮', 0, 0, 20)).toThrow(/cannot write/);
  });
});

describe('the recorded demo lessons', () => {
  it.each(SCRIPTS.filter((one) => one.beats.length > 0).map((one) => [one.title, one] as const))(
    'last one to three minutes, with every mark in its beat: %s',
    (_title, script) => {
      const { marks, lengthSamples, sound } = recordedTake(script);
      expect(lengthSamples / 48_000).toBeGreaterThan(60);
      expect(lengthSamples / 48_000).toBeLessThan(180);
      expect(sound.length).toBeGreaterThan(100_000);
      for (const mark of marks) {
        const endSamples = mark.atSamples + (mark.kind === 'ink' ? mark.stroke.points.lengthMs * 48 : 0);
        expect(endSamples).toBeLessThanOrEqual(lengthSamples);
      }
    },
  );
});
