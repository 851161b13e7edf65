import type { Change, PassingChange } from '@kite-trail/core/lesson/mark';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { sceneOf } from '@kite-trail/core/lesson/scene';
import { describe, expect, it, vi } from 'vitest';
import { useDesk } from '../lesson/desk';
import { pointingTool } from './pointing-tool';

const at = (type: string, clientX: number, clientY: number, timeStamp: number) =>
  ({ type, clientX, clientY, timeStamp }) as PointerEvent;

function pointing() {
  const desk = useDesk();
  desk.lay(() => sceneOf([{ page: wideSquaredPage('page-one' as never), pieces: [] }]));
  const passed: Change[] = [];
  desk.onCommit = ({ changes }) => passed.push(...changes);
  const [show, hold] = [vi.fn(), vi.fn<(change: PassingChange | null) => void>()];
  const sight = { toPage: (xPt: number, yPt: number) => ({ xPt, yPt }), pxPerPt: () => 1, changed: () => {} };
  return { tool: pointingTool(sight, show, hold), passed, show, hold };
}

describe('pointing', () => {
  it('is passed on whole once the pointer is up', () => {
    const { tool, passed, show } = pointing();
    tool.down(at('pointerdown', 10, 20, 1000));
    tool.move(at('pointermove', 30, 20, 1016));
    tool.up(at('pointerup', 50, 20, 1032));
    expect(passed.map((one) => one.kind === 'point' && [...one.pointing.points.xPt])).toEqual([[10, 30, 50]]);
    expect(show).toHaveBeenCalledOnce();
  });

  it('is not meant where it is cancelled, such as by a second finger', () => {
    const { tool, passed, show, hold } = pointing();
    tool.down(at('pointerdown', 10, 20, 1000));
    tool.up(at('pointercancel', 0, 0, 1010));
    expect(passed).toEqual([]);
    expect(show).not.toHaveBeenCalled();
    expect(hold).toHaveBeenLastCalledWith(null, 1000);
  });
});
