import { InkPoints } from '@kite-trail/core/ink/points';
import type { PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { newStroke, type ShapePiece } from '@kite-trail/core/lesson/piece';
import { sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
import { beforeEach, describe, expect, it } from 'vitest';
import { useDesk } from '../lesson/desk';
import { useSurface } from '../lesson/surface';
import { useBoardKeys } from './board-keys';
import { useComposing } from './composing/composing';
import { usePens } from './pens/pens';
import { useSelection } from './selection/selection';

const stroke = newStroke({
  id: 'a-bend' as PieceId,
  z: 1,
  pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
  points: InkPoints.from([{ xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 }]),
});

/** Presses a key, where it can be done. */
function press(keys: string, more: Partial<KeyboardEvent> = {}): void {
  const key = known.find((one) => one.keys === keys && (one.when?.() ?? true));
  key?.run({ key: keys, ...more } as KeyboardEvent);
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
  selection.holdEverything();
  press('Esc');
  expect([pens.held, selection.pieces.length]).toEqual(['hold', 0]);
});

describe('by keys alone', () => {
  it('a shape is put in the middle, and moved as far as it shall go', () => {
    const [pens, selection, composing] = [usePens(), useSelection(), useComposing()];
    composing.useFigure('ellipse');
    press('Enter');
    expect(pens.held).toBe('hold');
    const [shape] = selection.pieces;
    expect(shape.kind).toBe('shape');
    const place = () => {
      const [{ frame }] = selection.pieces as ShapePiece[];
      return [frame.xPt, frame.yPt];
    };
    const [x, y] = place();
    press('Arrows', { key: 'ArrowRight' });
    press('Arrows', { key: 'ArrowUp', shiftKey: true });
    expect(place()).toEqual([x + 1, y - 12]);
    // Enter does nothing more: the hand holds the shape.
    press('Enter');
    expect(shownPage(useDesk().scene!).pieces).toHaveLength(2);
  });

  it('text is begun in the middle of what is seen', () => {
    usePens().held = 'text';
    press('Enter');
    expect(useComposing().typing).not.toBeNull();
  });

  it('nothing is put where nobody may write', () => {
    useSurface().show(() => ({ moment: null, isWriting: false }));
    usePens().held = 'shape';
    press('Enter');
    expect(shownPage(useDesk().scene!).pieces).toHaveLength(1);
  });
});
