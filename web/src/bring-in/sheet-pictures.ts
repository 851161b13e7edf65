import { onScopeDispose, ref } from 'vue';
import { PasswordNeeded } from '../pdf/pdf-document';
import { api } from '../server/api';
import { useFiles } from '../lesson/files';
import { useLesson } from '../lesson/lesson';
import { useNotices } from '../lesson/notices';
import { ofLesson } from '../lesson/lesson-scope';

/** What watchers' phones are shown of a PDF page. */
const WIDTH_PX = 1280;

/** Pictures of PDF pages for those who cannot draw PDFs. They are drawn here and sent, and go on after a break. */
export const useSheetPictures = ofLesson(() => {
  const files = useFiles();
  const lesson = useLesson();
  /** How much of what is missing has been sent; `null` while nothing is being drawn. */
  const done = ref<number | null>(null);
  const problem = useNotices().place('problem');
  let going: Promise<void> | null = null;
  let isStopped = false;

  /** Draws and sends all that the server has not got. Settles when that is done, or has been stopped. */
  function drawMissing(): Promise<void> {
    going ??= drawAll().finally(() => {
      going = null;
      done.value = null;
    });
    return going;
  }

  async function drawAll(): Promise<void> {
    isStopped = false;
    problem.value = null;
    try {
      await files.sent();
      await lesson.save();
      const { id } = lesson.document!;
      const missing = await api.undrawn(id);
      for (const [n, { asset, pageIndex }] of missing.entries()) {
        if (isStopped) return;
        done.value = n / missing.length;
        const pdf = await files.loader!.pdf(asset);
        await api.keepSheetPicture(id, asset, pageIndex, await pdf.drawFile(pageIndex, WIDTH_PX));
      }
    } catch (error) {
      problem.value =
        error instanceof PasswordNeeded
          ? 'A locked PDF was not sent to the end. Bring it in again with its password.'
          : `Not all of the PDF could be sent yet: ${(error as Error).message}`;
    }
  }

  /** Stops; the rest is drawn when the lesson is opened again, or shared. */
  const stop = () => (isStopped = true);
  onScopeDispose(stop);

  return { done, drawMissing, stop };
});
