import { InkPoints } from '@kite-trail/core/ink/points';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { newStroke, type Stroke } from '@kite-trail/core/lesson/piece';
import { sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
import { placesOf } from '@kite-trail/core/lesson/touch';
import { describe, expect, it } from 'vitest';
import { useDesk } from '../../lesson/desk';
import { useSelection } from './selection';

const PAGE = 'page-one' as PageId;
const line = (id: string, xPt: number, yPt: number, z: number): Stroke =>
  newStroke({
    id: id as PieceId,
    z,
    pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
    points: InkPoints.from([
      { xPt, yPt, pressure: 0.5, sinceMs: 0 },
      { xPt: xPt + 100, yPt, pressure: 0.5, sinceMs: 90 },
    ]),
  });

function held(...strokes: Stroke[]) {
  const desk = useDesk();
  desk.lay(() => sceneOf([{ page: wideSquaredPage(PAGE), pieces: strokes }]));
  const selection = useSelection();
  return { desk, selection, strokes: () => shownPage(desk.scene!).pieces as Stroke[] };
}

describe('what is held', () => {
  it('is moved from where the gesture began, into line, as one step to undo', () => {
    const { desk, selection, strokes } = held(line('a', 100, 100, 1), line('b', 100, 200, 2), line('c', 500, 400, 3));
    selection.hold(['a', 'b'] as PieceId[]);
    selection.begin();
    selection.drag(50, 20, 4);
    selection.drag(203, 60, 0);
    expect(selection.frame!.xPt).toBeCloseTo(150 + 203);
    selection.end();
    expect(strokes().map((one) => Math.round(placesOf(one)[0].xPt))).toEqual([303, 303, 500]);
    expect(selection.guides).toEqual([]);
    desk.undo();
    expect(strokes().map(({ matrix }) => matrix)).toEqual([null, null, null]);
  });

  it('falls in line with what is near, and shows by what', () => {
    const { selection, strokes } = held(line('a', 100, 100, 1), line('c', 500, 400, 3));
    selection.hold(['a'] as PieceId[]);
    selection.begin();
    selection.drag(397, 40, 6);
    expect(placesOf(strokes()[0])[0].xPt).toBeCloseTo(500, 3);
    expect(selection.guides.map(({ direction }) => direction)).toEqual(['down']);
    selection.end();
  });

  it('is taken with all of its group, and what is locked only by touching it', () => {
    const { selection, strokes } = held(line('a', 100, 100, 1), line('b', 100, 200, 2), line('c', 100, 300, 3));
    selection.hold(['a', 'b'] as PieceId[]);
    selection.group();
    selection.hold(['c'] as PieceId[]);
    selection.lock(true);
    selection.letGo();
    selection.takeAt({ xPt: 150, yPt: 100 }, 4);
    expect([...selection.ids]).toEqual(['a', 'b']);
    expect(selection.isGrouped).toBe(true);
    selection.holdEverything();
    expect([...selection.ids]).toEqual(['a', 'b']);
    selection.takeAt({ xPt: 150, yPt: 300 }, 4);
    expect([...selection.ids, selection.isLocked]).toEqual(['c', true]);
    expect(strokes()[2].locked).toBe(true);
  });

  it('gives copies new ids and groups of their own', () => {
    const { selection, strokes } = held(line('a', 100, 100, 1), line('b', 100, 200, 2));
    selection.hold(['a', 'b'] as PieceId[]);
    selection.group();
    selection.duplicate();
    const [a, b, first, second] = strokes();
    expect(new Set([a.id, b.id, first.id, second.id]).size).toBe(4);
    expect(first.group).toBe(second.group);
    expect(first.group).not.toBe(a.group);
    expect([...selection.ids]).toEqual([first.id, second.id]);
    expect(placesOf(first)[0].xPt).toBeGreaterThan(placesOf(a)[0].xPt);
  });
});
