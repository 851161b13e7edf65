import type { AssetId, PageId } from '@kite-trail/core/lesson/ids';
import { BLANK_PAPER, blankPage, wideSquaredPage, type Page } from '@kite-trail/core/lesson/page';
import { sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useDesk } from '../lesson/desk';
import { useBringIn } from './bring-in';

const { add, adopt, prepare, openPdf, PasswordNeeded } = vi.hoisted(() => ({
  add: vi.fn(),
  adopt: vi.fn(),
  prepare: vi.fn(),
  openPdf: vi.fn(),
  PasswordNeeded: class extends Error {
    constructor(readonly wrong: boolean) {
      super('locked');
    }
  },
}));
vi.mock('../lesson/files', () => ({ useFiles: () => ({ add, loader: { adopt } }) }));
vi.mock('../pictures/prepare-picture', () => ({ preparePicture: prepare, written: vi.fn() }));
vi.mock('../pdf/pdf-document', () => ({ PdfDocument: { open: openPdf }, PasswordNeeded }));
vi.mock('./sheet-pictures', () => ({ useSheetPictures: () => ({ drawMissing: async () => {} }) }));

const PAGE = 'page-one-of-us' as PageId;
const ASSET = 'b'.repeat(64) as AssetId;
const A4 = { widthPt: 595.28, heightPt: 841.89 };
const prepared = (widthPx: number, heightPx: number) => ({ blob: new Blob(), widthPx, heightPx, reducedFrom: null });
const pdf = (pageCount: number) => ({
  pageCount,
  sizes: async (indices: readonly number[]) => indices.map(() => A4),
  close: vi.fn(),
});
const pdfFile = () => new File(['%PDF-1.7'], 'tides.pdf');

function laid(page: Page = wideSquaredPage(PAGE)) {
  const desk = useDesk();
  desk.lay(() => sceneOf([{ page, pieces: [] }]));
  return { desk, bringIn: useBringIn(), pages: () => desk.scene!.pages.map((state) => state.page) };
}

beforeEach(() => {
  vi.clearAllMocks();
  add.mockResolvedValue(ASSET);
});

describe('a picture', () => {
  it('lies where it was dropped, whole and no larger than most of the page, and is held', async () => {
    const { desk, bringIn } = laid();
    prepare.mockResolvedValue(prepared(4000, 1000));
    await bringIn.bring([new File(['x'], 'chart.png')], { xPt: 480, yPt: 200 });
    const [picture] = shownPage(desk.scene!).pieces;
    expect(picture.kind).toBe('picture');
    if (picture.kind !== 'picture') return;
    expect([picture.frame.xPt, picture.frame.yPt]).toEqual([480, 200]);
    expect(picture.frame.widthPt / picture.frame.heightPt).toBeCloseTo(4, 1);
    expect(picture.frame.widthPt).toBeLessThanOrEqual(960 * 0.6 + 0.1);
    desk.undo();
    expect(shownPage(desk.scene!).pieces).toEqual([]);
  });

  it('that cannot be used is told by its name, and those beside it come in', async () => {
    const { desk, bringIn } = laid();
    prepare.mockRejectedValueOnce(new Error('This file is empty.')).mockResolvedValue(prepared(80, 60));
    await bringIn.bring([new File([], 'nothing.png'), new File(['x'], 'buoy.png')]);
    expect(bringIn.problem).toBe('nothing.png: This file is empty.');
    expect(shownPage(desk.scene!).pieces).toHaveLength(1);
  });
});

describe('a PDF', () => {
  it('takes the place of a page that nobody wrote on, in one step to undo', async () => {
    const { desk, bringIn, pages } = laid();
    openPdf.mockResolvedValue(pdf(6));
    const brought = bringIn.bring([pdfFile()]);
    await vi.waitFor(() => expect(bringIn.choice).not.toBeNull());
    await bringIn.takePages([0, 2, 5]);
    await brought;
    expect(pages().map(({ sheet }) => sheet?.pageIndex)).toEqual([0, 2, 5]);
    desk.undo();
    expect(pages().map(({ id }) => id)).toEqual([PAGE]);
    expect(desk.canUndo).toBe(false);
    desk.redo();
    expect(pages()).toHaveLength(3);
  });

  it('comes after a page that is a sheet already', async () => {
    const sheet = { asset: ASSET, pageIndex: 0, ...A4 };
    const { bringIn, pages } = laid({ ...blankPage(PAGE, A4, BLANK_PAPER), sheet });
    openPdf.mockResolvedValue(pdf(1));
    const brought = bringIn.bring([pdfFile()]);
    await vi.waitFor(() => expect(bringIn.choice).not.toBeNull());
    await bringIn.takePages([0]);
    await brought;
    expect(pages()[0].id).toBe(PAGE);
    expect(pages()).toHaveLength(2);
  });

  it('that is locked asks until the password is right, and put away changes nothing', async () => {
    const { bringIn, pages } = laid();
    openPdf.mockRejectedValueOnce(new PasswordNeeded(false)).mockRejectedValueOnce(new PasswordNeeded(true));
    const brought = bringIn.bring([pdfFile()]);
    await vi.waitFor(() => expect(bringIn.locked?.wrong).toBe(false));
    await bringIn.unlock('not this one');
    expect(bringIn.locked?.wrong).toBe(true);
    bringIn.dismiss();
    await brought;
    expect([bringIn.locked, pages().map(({ id }) => id)]).toEqual([null, [PAGE]]);
  });

  it('of too many pages is refused with the limit', async () => {
    const { bringIn, pages } = laid();
    const large = pdf(1001);
    openPdf.mockResolvedValue(large);
    await bringIn.bring([pdfFile()]);
    expect(bringIn.problem).toMatch(/1001 pages; a lesson takes 1000/);
    expect(large.close).toHaveBeenCalled();
    expect(pages()).toHaveLength(1);
  });
});
