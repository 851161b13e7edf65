import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { fitted } from '@kite-trail/core/lesson/picture';
import { WHOLE, type Picture } from '@kite-trail/core/lesson/piece';
import { pageStateOf } from '@kite-trail/core/lesson/scene';
import type { Corners } from '@kite-trail/core/photograph/page-corners';
import { ref, shallowRef } from 'vue';
import { useSelection } from '../board/selection/selection';
import { useDesk } from '../lesson/desk';
import { useFiles } from '../lesson/files';
import { ofLesson } from '../lesson/lesson-scope';
import { useNotices } from '../lesson/notices';
import { useRecordingNow } from '../lesson/recording-now';
import type { PhotographWorker, Sheet } from '../workers/photograph.worker';
import SheetFinder from '../workers/photograph.worker?worker';
import { withWorker } from '../workers/with-worker';

/** A photograph on a page, with the file it shows. */
interface Photograph {
  page: PageId;
  picture: Picture;
  file: Blob;
}

/** Makes of a photographed sheet of paper what it would be if it lay straight before one's eyes. */
export const useStraightening = ofLesson(() => {
  const desk = useDesk();
  const files = useFiles();
  const selection = useSelection();
  const recording = useRecordingNow();
  const problem = useNotices().place('problem');
  const isStraightening = ref(false);
  /** A photograph whose corners are being placed by hand. */
  const byHand = shallowRef<Photograph | null>(null);

  /** The picture that is held becomes the sheet that is seen in it; where none is seen, its corners are asked for. */
  const straighten = (): Promise<void> =>
    working(async () => {
      const photograph = await held();
      const corners = await withWorker<PhotographWorker, Corners | null>(new SheetFinder(), (worker) =>
        worker.cornersIn(photograph.file),
      );
      if (corners) await becomeSheet(photograph, corners);
      else askForCorners(photograph);
    });

  /** Asks for the corners. */
  const placeCorners = (): Promise<void> => working(async () => askForCorners(await held()));

  function askForCorners(photograph: Photograph): void {
    recording.pause();
    byHand.value = photograph;
  }

  /** What lies between these corners, in the photograph's pixels, is the sheet. */
  const straightenBetween = (corners: Corners): Promise<void> =>
    working(async () => {
      const photograph = byHand.value!;
      byHand.value = null;
      await becomeSheet(photograph, corners);
    });

  const dismiss = () => (byHand.value = null);

  async function held(): Promise<Photograph> {
    const picture = selection.picture!;
    return { page: desk.scene!.shown, picture, file: await files.loader!.file(picture.asset) };
  }

  /** It can be undone: the photograph stays with the lesson. */
  async function becomeSheet({ page, picture, file }: Photograph, corners: Corners): Promise<void> {
    const sheet = await withWorker<PhotographWorker, Sheet>(new SheetFinder(), (worker) =>
      worker.sheetBetween(file, corners),
    );
    const asset = await files.add('sheet.jpg', sheet.blob);
    // It may have been moved, or taken away, meanwhile, and another page be shown.
    const now = pageStateOf(desk.scene!, page)?.pieces.find(({ id }) => id === picture.id);
    if (now?.kind !== 'picture') return;
    desk.change({ kind: 'alter', page, pieces: [inThePlaceOf(now, { ...sheet, asset })] });
  }

  async function working(work: () => Promise<void>): Promise<void> {
    if (isStraightening.value) return;
    isStraightening.value = true;
    problem.value = null;
    try {
      await work();
    } catch (error) {
      problem.value = (error as Error).message;
    } finally {
      isStraightening.value = false;
    }
  }

  return { isStraightening, byHand, straighten, placeCorners, straightenBetween, dismiss };
});

/** A sheet in the place of the photograph in which it was seen, as large as there is room for. */
function inThePlaceOf(
  photograph: Picture,
  { asset, widthPx, heightPx }: Pick<Picture, 'asset'> & { widthPx: number; heightPx: number },
): Picture {
  const { frame } = photograph;
  const sheet: Picture = {
    ...photograph,
    asset,
    crop: WHOLE,
    cutOut: new Float32Array(),
    frame: { ...frame, turnRad: 0, mirrored: false, heightPt: (frame.widthPt * heightPx) / widthPx },
  };
  return fitted(sheet, pieceBounds(photograph), 'page');
}
