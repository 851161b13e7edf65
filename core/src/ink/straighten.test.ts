import { describe, expect, it } from 'vitest';
import { InkPoints } from './points';
import { exactOf, heldStillMs, straightened, type ExactFigure } from './straighten';

type Place = readonly [number, number];

/** A repeatable tremble of a few tenths of a millimetre, which a hand has. */
const tremble = (n: number) => 1.1 * Math.sin(n * 1.7) + 0.9 * Math.sin(n * 0.61 + 2);

/** A stroke along corners, with a hand's tremble. */
function drawn(corners: readonly Place[], step = 4): InkPoints {
  const places: Place[] = [];
  for (let i = 1; i < corners.length; i++) {
    const [[ax, ay], [bx, by]] = [corners[i - 1], corners[i]];
    const steps = Math.max(2, Math.round(Math.hypot(bx - ax, by - ay) / step));
    for (let n = i === 1 ? 0 : 1; n <= steps; n++) {
      places.push([ax + ((bx - ax) * n) / steps, ay + ((by - ay) * n) / steps]);
    }
  }
  return InkPoints.from(
    places.map(([x, y], n) => ({ xPt: x + tremble(n), yPt: y + tremble(n + 40), pressure: 0.5, sinceMs: n * 8 })),
  );
}

const round = (rx: number, ry: number, turn = 0, from = 0, by = 2 * Math.PI): Place[] =>
  Array.from({ length: 61 }, (_, n) => {
    const angle = from + (by * n) / 60;
    const [x, y] = [rx * Math.cos(angle), ry * Math.sin(angle)];
    return [300 + x * Math.cos(turn) - y * Math.sin(turn), 200 + x * Math.sin(turn) + y * Math.cos(turn)];
  });

const hexagon = Array.from({ length: 7 }, (_, n): Place => {
  const angle = (n * Math.PI) / 3;
  return [300 + 90 * Math.cos(angle), 200 + 90 * Math.sin(angle)];
});

const figureOf = (points: InkPoints): ExactFigure | null => exactOf(points)?.figure ?? null;
const box = (w: number, h: number): Place[] => [
  [100, 100],
  [100 + w, 100],
  [100 + w, 100 + h],
  [100, 100 + h],
  [100, 101],
];

describe('what was meant by a stroke', () => {
  it.each<[ExactFigure, readonly Place[]]>([
    [
      'line',
      [
        [100, 100],
        [300, 180],
      ],
    ],
    [
      'arrow',
      [
        [100, 100],
        [300, 100],
        [265, 80],
        [300, 100],
        [265, 122],
      ],
    ],
    [
      'arrow',
      [
        [100, 300],
        [100, 100],
        [80, 132],
        [100, 100],
        [121, 133],
      ],
    ],
    ['rectangle', box(220, 120)],
    ['square', box(130, 124)],
    [
      'triangle',
      [
        [100, 200],
        [180, 60],
        [270, 200],
        [101, 201],
      ],
    ],
    [
      'triangle',
      [
        [100, 100],
        [220, 120],
        [120, 230],
        [100, 101],
      ],
    ],
    ['ellipse', round(120, 60)],
    ['ellipse', round(110, 60, 0.7)],
    ['circle', round(80, 78)],
    ['circle', round(80, 80, 0, 1, -2 * Math.PI * 1.02)],
    ['circle', round(80, 80, 0, 1, 2 * Math.PI * 1.08)],
    ['circle', round(80, 80, 0, 1, -2 * Math.PI * 1.2)],
    ['ellipse', round(120, 60, 0.3, 2, 2 * Math.PI * 1.1)],
    ['polygon', hexagon],
  ])('is a %s', (figure, corners) => {
    expect(figureOf(drawn(corners))).toBe(figure);
  });

  it('has the corners, axes and angles that were drawn', () => {
    const { path } = exactOf(drawn(box(220, 120)))!;
    const xs = [...new Set(path.map(({ x }) => Math.round(x / 3)))];
    const ys = [...new Set(path.map(({ y }) => Math.round(y / 3)))];
    expect([xs.length, ys.length]).toEqual([2, 2]);
    const around = exactOf(drawn(round(120, 60, 0.7)))!.path.map(({ x, y }) => Math.hypot(x - 300, y - 200));
    // Moments give the semi-axes of a true ellipse drawn at an even speed to about 3 %.
    expect(Math.abs(Math.max(...around) - 120)).toBeLessThan(6);
    expect(Math.abs(Math.min(...around) - 60)).toBeLessThan(6);
    const level = exactOf(
      drawn([
        [50, 100],
        [350, 105],
      ]),
    )!.path;
    expect(level[0].y).toBeCloseTo(level[1].y, 6);
  });

  it('is nothing where it is too far off', () => {
    const scribble: Place[] = [
      [100, 100],
      [180, 200],
      [120, 180],
      [240, 90],
      [90, 160],
      [260, 190],
      [150, 60],
    ];
    expect(figureOf(drawn(scribble))).toBeNull();
    const wave = Array.from({ length: 40 }, (_, n): Place => [100 + n * 5, 100 + 30 * Math.sin(n / 4)]);
    expect(figureOf(drawn(wave))).toBeNull();
    // Three quarters round.
    expect(figureOf(drawn(round(80, 80, 0, 0, 1.5 * Math.PI)))).toBeNull();
  });

  it('is nothing for letters of a usual height, an o and an l among them', () => {
    const letter = (places: Place[]) => places.map(([x, y]): Place => [(x - 300) / 8, (y - 200) / 8]);
    expect(figureOf(drawn(letter(round(80, 100)), 1))).toBeNull();
    expect(
      figureOf(
        drawn(
          [
            [10, 10],
            [10, 32],
          ],
          1,
        ),
      ),
    ).toBeNull();
    // A large S, C, U, Z, 2 and 3.
    for (const one of [
      round(60, 60, 0, -0.7, -4.7),
      [
        [60, 0],
        [60, 120],
        [75, 150],
        [110, 150],
        [125, 120],
        [125, 0],
      ] as Place[],
      [
        [0, 0],
        [100, 0],
        [0, 130],
        [100, 130],
      ] as Place[],
    ])
      expect(figureOf(drawn(one))).toBeNull();
  });
});

describe('a pen held still', () => {
  it('is told by its last places, however it trembles', () => {
    const moving = drawn([
      [100, 100],
      [300, 100],
    ]);
    expect(heldStillMs(moving)).toBeLessThan(30);
    const samples = Array.from({ length: moving.count }, (_, i) => ({
      xPt: moving.xPt[i],
      yPt: moving.yPt[i],
      pressure: 0.5,
      sinceMs: moving.sinceMs[i],
    }));
    const { xPt, yPt, sinceMs } = samples.at(-1)!;
    const held = [1, 2, 3].map((n) => ({ xPt: xPt + n / 3, yPt, pressure: 0.5, sinceMs: sinceMs + n * 200 }));
    expect(heldStillMs(InkPoints.from([...samples, ...held]))).toBeGreaterThanOrEqual(600);
  });
});

describe('making it exact', () => {
  it('keeps the times, ends where it should, and lies on the figure', () => {
    const points = drawn([
      [100, 100],
      [300, 180],
    ]);
    const exact = straightened(points, exactOf(points)!);
    expect(exact.lengthMs).toBe(points.lengthMs);
    expect([...exact.sinceMs]).toEqual([...exact.sinceMs].sort((a, b) => a - b));
    const slope = (exact.yPt.at(-1)! - exact.yPt[0]) / (exact.xPt.at(-1)! - exact.xPt[0]);
    for (let i = 0; i < exact.count; i++) {
      expect(exact.yPt[i]).toBeCloseTo(exact.yPt[0] + slope * (exact.xPt[i] - exact.xPt[0]), 0);
    }
    const square = drawn(box(130, 130));
    const closed = straightened(square, exactOf(square)!);
    expect([closed.xPt.at(-1), closed.yPt.at(-1)]).toEqual([closed.xPt[0], closed.yPt[0]]);
  });
});
