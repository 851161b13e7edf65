import { pieceBounds } from '@kite-trail/core/lesson/bounds';
import { fitted } from '@kite-trail/core/lesson/picture';
import { WHOLE, type Picture } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { ref } from 'vue';
import { useSelection } from '../board/selection/selection';
import { useDesk } from '../lesson/desk';
import { useFiles } from '../lesson/files';
import { ofLesson } from '../lesson/lesson-scope';
import { useNotices } from '../lesson/notices';
import type { PhotographWorker } from '../workers/photograph.worker';
import SheetFinder from '../workers/photograph.worker?worker';
import { withWorker } from '../workers/with-worker';

/** Makes of a photographed sheet of paper what it would be if it lay straight before one's eyes. */
export const useStraightening = ofLesson(() => {
  const desk = useDesk();
  const files = useFiles();
  const selection = useSelection();
  const problem = useNotices().place('problem');
  const isStraightening = ref(false);

  /** The picture that is held becomes the sheet that is seen in it. It can be undone: the photograph stays with the lesson. */
  async function straighten(): Promise<void> {
    const photograph = selection.picture;
    if (!photograph || isStraightening.value) return;
    const { shown } = desk.scene!;
    isStraightening.value = true;
    problem.value = null;
    try {
      const file = await files.loader!.file(photograph.asset);
      const sheet = await withWorker<PhotographWorker, Awaited<ReturnType<PhotographWorker['sheetIn']>>>(
        new SheetFinder(),
        (worker) => worker.sheetIn(file),
      );
      if (!sheet) throw new Error('No sheet of paper is seen in this picture. All four of its edges have to be in it.');
      const asset = await files.add('sheet.jpg', sheet.blob);
      // It may have been moved, or taken away, meanwhile.
      const now = shownPage(desk.scene!).pieces.find(({ id }) => id === photograph.id);
      if (desk.scene!.shown !== shown || now?.kind !== 'picture') return;
      desk.change({ kind: 'alter', page: shown, pieces: [inThePlaceOf(now, { ...sheet, asset })] });
    } catch (error) {
      problem.value = (error as Error).message;
    } finally {
      isStraightening.value = false;
    }
  }

  return { isStraightening, straighten };
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
