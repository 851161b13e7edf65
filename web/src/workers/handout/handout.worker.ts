import { expose } from 'comlink';
import { LessonFileLoader } from '../../pictures/lesson-file-loader';
import { Gate } from '../gate';
import { makeHandout, type Handout } from './handout';
import { WordSetter } from './set-words';

const gate = new Gate();

/** What sets type, loaded when it is first needed: it begins with a wait, during which a worker would hear nothing of what it is sent. */
const words = new WordSetter(async (text, font, isBold) => {
  const { typefaceFor } = await import('../../typeset/fonts');
  return typefaceFor(text, font, isBold);
});

/** Makes hand-outs away from the page. */
const handout = {
  hold(isHeld: boolean): void {
    gate.hold(isHeld);
  },

  /** @param onDone hears how much is done, from 0 to 1 @throws Error with a message for the teacher */
  async make(task: Handout, onDone: (done: number) => void): Promise<Blob> {
    const loader = new LessonFileLoader(task.lesson);
    const files = {
      file: (asset: Parameters<typeof loader.file>[0]) => loader.file(asset),
      drawn: async (...[asset, pageIndex, widthPx]: Parameters<typeof loader.load>) => {
        const bitmap = await loader.load(asset, pageIndex, widthPx);
        const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
        canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
        bitmap.close();
        return canvas.convertToBlob({ type: 'image/png' });
      },
    };
    const bytes = await makeHandout(task, { files, words, passed: () => gate.passed(), onDone });
    return new Blob([bytes], { type: 'application/pdf' });
  },
};
export type HandoutWorker = typeof handout;

expose(handout);
