import { InkPoints } from '@kite-trail/core/ink/points';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { newStroke } from '@kite-trail/core/lesson/piece';
import { sceneOf } from '@kite-trail/core/lesson/scene';
import { beforeEach, describe, expect, it } from 'vitest';
import { useDesk } from '../lesson/desk';
import { useBoardKeys } from './board-keys';
import { usePens } from './pens/pens';
import { useSelection } from './selection/selection';

const stroke = newStroke({
  id: 'a-bend' as PieceId,
  z: 1,
  pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
  points: InkPoints.from([{ xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 }]),
});

/** Presses a key, where it can be done. */
function press(keys: string): void {
  const key = known.find((one) => one.keys === keys && (one.when?.() ?? true));
  key?.run({ key: keys } as KeyboardEvent);
}
let known: ReturnType<typeof useBoardKeys>;

beforeEach(() => {
  useDesk().lay(() => sceneOf([{ page: wideSquaredPage('page-one' as PageId), pieces: [stroke] }]));
  known = useBoardKeys();
});

describe('after everything was taken hold of', () => {
  it('Escape lets go, and what was in the hand before is there again', () => {
    const [pens, selection] = [usePens(), useSelection()];
    pens.held = 'eraser';
    press('Ctrl A');
    expect([pens.held, selection.pieces.length]).toEqual(['hold', 1]);
    press('Esc');
    expect([pens.held, selection.pieces.length]).toEqual(['eraser', 0]);
  });

  it('a tool that was picked meanwhile stays in the hand', () => {
    const pens = usePens();
    pens.held = 'pen';
    press('Ctrl A');
    press('L');
    press('Esc');
    expect(pens.held).toBe('point');
  });
});

it('Escape leaves the hand in the hand that took hold with it', () => {
  const [pens, selection] = [usePens(), useSelection()];
  press('G');
  selection.takeEverything();
  press('Esc');
  expect([pens.held, selection.pieces.length]).toEqual(['hold', 0]);
});
