import type { PageId } from '@kite-trail/core/lesson/ids';
import { blankPage, pageRect } from '@kite-trail/core/lesson/page';
import { describe, expect, it } from 'vitest';
import { useView } from './view';

function viewOn(widthPt: number, heightPt: number) {
  const view = useView();
  view.box = { widthPx: 1000, heightPx: 600 };
  const page = blankPage('page-one' as PageId, { widthPt, heightPt });
  view.lookAt(page);
  return { view, page };
}

describe('looking at a page', () => {
  it('fits the width of a tall page, and knows that a wide one fits already', () => {
    const { view } = viewOn(600, 900);
    expect(view.canFitWidth).toBe(true);
    view.fitWidth();
    expect(view.look!.right - view.look!.left).toBeCloseTo(600, 6);
    expect(view.look!.bottom - view.look!.top).toBeCloseTo(360, 6);
    view.whole();
    expect(view.look).toBeNull();
    expect(viewOn(1600, 900).view.canFitWidth).toBe(false);
  });

  it('shows a part as large as it can, whole', () => {
    const { view, page } = viewOn(960, 540);
    view.showPart({ left: 100, top: 100, right: 200, bottom: 200 });
    const { left, top, right, bottom } = view.look!;
    expect(left).toBeLessThanOrEqual(100);
    expect(top).toBeCloseTo(100, 0);
    expect(right).toBeGreaterThanOrEqual(200);
    expect(bottom).toBeCloseTo(200, 0);
    view.showPart(pageRect(page));
    expect(view.look).toBeNull();
  });

  it('shows all of another page', () => {
    const { view } = viewOn(960, 540);
    view.nearer();
    expect(view.zoom).toBeGreaterThan(1);
    view.lookAt(blankPage('page-two' as PageId, { widthPt: 960, heightPt: 540 }));
    expect(view.zoom).toBe(1);
  });
});
