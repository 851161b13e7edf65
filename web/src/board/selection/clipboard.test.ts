import { InkPoints } from '@kite-trail/core/ink/points';
import type { AssetId, LessonId, PageId, PieceId } from '@kite-trail/core/lesson/ids';
import { wideSquaredPage } from '@kite-trail/core/lesson/page';
import { NEW, newStroke, WHOLE, type Piece } from '@kite-trail/core/lesson/piece';
import { sceneOf, shownPage } from '@kite-trail/core/lesson/scene';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useDesk } from '../../lesson/desk';
import { LessonScope, useOtherwise } from '../../lesson/lesson-scope';
import { useLesson } from '../../lesson/lesson';
import { api } from '../../server/api';
import { madeLesson } from '../../testing/made-lesson';
import { useClipboard } from './clipboard';
import { useSelection } from './selection';

const { add } = vi.hoisted(() => ({ add: vi.fn() }));
vi.mock('../../lesson/files', () => ({ useFiles: () => ({ add, open: async () => {} }) }));

const PAGE = 'page-one-of-us' as PageId;
const ASSET = 'a'.repeat(64) as AssetId;
const stroke = newStroke({
  id: 'a-bend' as PieceId,
  z: 1,
  pen: { kind: 'pen', color: '#1f2a44', widthPt: 2 },
  points: InkPoints.from([
    { xPt: 10, yPt: 10, pressure: 0.5, sinceMs: 0 },
    { xPt: 40, yPt: 10, pressure: 0.5, sinceMs: 90 },
  ]),
});
const picture: Piece = {
  ...NEW,
  kind: 'picture',
  id: 'a-buoy' as PieceId,
  z: 2,
  asset: ASSET,
  frame: { xPt: 100, yPt: 100, widthPt: 40, heightPt: 30, turnRad: 0, mirrored: false },
  crop: WHOLE,
  cutOut: new Float32Array(),
};

/** Opens a lesson with pieces on its page, as another one than before. */
async function open(lesson: string, ...pieces: Piece[]) {
  useOtherwise(new LessonScope());
  await useLesson().accept({ ...madeLesson([PAGE], {}), id: lesson as LessonId });
  useDesk().lay(() => sceneOf([{ page: wideSquaredPage(PAGE), pieces }]));
}
const onPage = () => shownPage(useDesk().scene!).pieces;

beforeEach(() => vi.clearAllMocks());

describe('what is copied', () => {
  it('is pasted in another lesson, with the files of its pictures, each asked for once', async () => {
    await open('lesson-one-of-us-all', stroke, picture);
    useSelection().holdEverything();
    const copied = useClipboard().copy();
    const file = new Blob(['buoy']);
    vi.spyOn(api, 'lessonFile').mockResolvedValue(file);
    await open('lesson-two-of-us-all');
    await useClipboard().paste(copied);
    expect(add).toHaveBeenCalledExactlyOnceWith('picture', file);
    expect(onPage().map(({ kind }) => kind)).toEqual(['stroke', 'picture']);
    // Copies have ids of their own, and are held.
    expect(onPage().some(({ id }) => id === stroke.id || id === picture.id)).toBe(false);
    expect(useSelection().pieces).toHaveLength(2);
  });

  it('lies a little aside of what it was copied from, and asks for no file again', async () => {
    await open('lesson-one-of-us-all', picture);
    useSelection().holdEverything();
    useClipboard().copy();
    await useClipboard().paste();
    expect(add).not.toHaveBeenCalled();
    const places = onPage().map((piece) => (piece.kind === 'picture' ? piece.frame.xPt : NaN));
    expect(places[1]).toBeGreaterThan(places[0]);
  });

  it('that is cut is gone from the page, and comes back by pasting, or by undo', async () => {
    await open('lesson-one-of-us-all', stroke);
    useSelection().holdEverything();
    const copied = useClipboard().cut();
    expect(onPage()).toEqual([]);
    useDesk().undo();
    expect(onPage().map(({ id }) => id)).toEqual([stroke.id]);
    await useClipboard().paste(copied);
    expect(onPage()).toHaveLength(2);
  });

  it('and cannot be read changes nothing', async () => {
    await open('lesson-one-of-us-all', stroke);
    for (const broken of ['', '{}', '{"lesson":"lesson-one-of-us-all","pieces":"!!"}', 'null'])
      await expect(useClipboard().paste(broken)).rejects.toThrow();
    expect(onPage()).toEqual([stroke]);
  });

  it('whose picture cannot be had now changes nothing', async () => {
    await open('lesson-one-of-us-all', picture);
    useSelection().holdEverything();
    const copied = useClipboard().copy();
    vi.spyOn(api, 'lessonFile').mockRejectedValue(new Error('There is no network just now.'));
    await open('lesson-two-of-us-all');
    await expect(useClipboard().paste(copied)).rejects.toThrow('no network');
    expect(onPage()).toEqual([]);
  });
});
