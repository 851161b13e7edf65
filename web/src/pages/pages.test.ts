import type { AssetId, PageId } from '@kite-trail/core/lesson/ids';
import {
  BLANK_PAPER,
  blankPage,
  SQUARED_PAPER,
  wideSquaredPage,
  type Page,
  type Paper,
} from '@kite-trail/core/lesson/page';
import { sceneOf } from '@kite-trail/core/lesson/scene';
import { describe, expect, it } from 'vitest';
import { useDesk } from '../lesson/desk';
import { usePages } from './pages';

const FIRST = 'page-one' as PageId;
const RULED: Paper = { ...SQUARED_PAPER, kind: 'ruled' };

function laid(...states: Page[]) {
  useDesk().lay(() => sceneOf(states.map((page) => ({ page, pieces: [] }))));
  return usePages();
}
const size = (pages: ReturnType<typeof usePages>) => {
  const { leftPt, topPt, widthPt, heightPt } = pages.shown().page;
  return [leftPt, topPt, widthPt, heightPt];
};

describe('room to write', () => {
  it('is taken back by as much as was given, and the page is never smaller than it was', () => {
    const pages = laid(wideSquaredPage(FIRST));
    const before = size(pages);
    for (const side of ['rightPt', 'leftPt', 'topPt', 'bottomPt'] as const) {
      pages.giveRoom(side, 'more');
      pages.giveRoom(side, 'more');
      expect(size(pages)).not.toEqual(before);
      pages.giveRoom(side, 'less');
      pages.giveRoom(side, 'less');
      expect(size(pages)).toEqual(before);
      pages.giveRoom(side, 'less');
      expect(size(pages)).toEqual(before);
    }
  });

  it('never takes from what is printed on a page', () => {
    const sheet = { asset: 'a'.repeat(64) as AssetId, pageIndex: 0, widthPt: 600, heightPt: 800 };
    const pages = laid({ ...blankPage(FIRST, { widthPt: 900, heightPt: 800 }, BLANK_PAPER), sheet });
    pages.giveRoom('rightPt', 'less');
    expect(size(pages)).toEqual([0, 0, 700, 800]);
    for (let n = 0; n < 3; n++) pages.giveRoom('rightPt', 'less');
    expect(size(pages)).toEqual([0, 0, 600, 800]);
  });

  it('begins anew where a page is made of another size', () => {
    const pages = laid(wideSquaredPage(FIRST));
    pages.giveRoom('rightPt', 'more');
    pages.resize({ widthPt: 500, heightPt: 500 });
    pages.giveRoom('rightPt', 'less');
    expect(size(pages)).toEqual([0, 0, 500, 500]);
  });
});

describe('a page that is added', () => {
  it('is on the paper of its lesson, not on what another one was written on last', () => {
    const other = laid(wideSquaredPage(FIRST));
    other.takePaper({ ...BLANK_PAPER, color: '#123456' }, false);
    const pages = laid(blankPage(FIRST, { widthPt: 600, heightPt: 400 }, RULED));
    pages.addBlank();
    expect(pages.shown().page).toMatchObject({ paper: RULED, widthPt: 600, heightPt: 400 });
  });
});
