import type { Template } from '@kite-trail/core/contract/template';
import { contentsOf, decodeContents, pageStateFrom } from '@kite-trail/core/formats/marks-coding';
import type { PageId } from '@kite-trail/core/lesson/ids';
import { pageStateOf } from '@kite-trail/core/lesson/scene';
import { ref } from 'vue';
import { api } from '../server/api';
import { toBase64 } from '../server/base64';
import { useBringIn } from '../bring-in/bring-in';
import { useRecordingNow } from '../lesson/recording-now';
import { useDesk } from '../lesson/desk';
import { useFiles } from '../lesson/files';
import { useLesson } from '../lesson/lesson';
import { copyOf, usePages } from './pages';
import { ofLesson } from '../lesson/lesson-scope';

/** The teacher's own pages to start pages from. */
export const useTemplates = ofLesson(() => {
  const bringIn = useBringIn();
  const recording = useRecordingNow();
  const desk = useDesk();
  const files = useFiles();
  const lesson = useLesson();
  const pages = usePages();

  const list = ref<Template[] | null>(null);
  const isChoosing = ref(false);
  /** The page that is to be kept, while its name is asked for. */
  const keeping = ref<{ page: PageId; number: number } | null>(null);
  const problem = ref<string | null>(null);

  /** Lets the teacher choose a template; that takes the eyes off the page. */
  async function choose(): Promise<void> {
    recording.pause();
    isChoosing.value = true;
    await attempt(async () => (list.value = await api.templates()));
  }

  /** Asks what the template that a page becomes is to be called. */
  function askName(page: PageId): void {
    recording.pause();
    problem.value = null;
    keeping.value = { page, number: desk.scene!.pages.findIndex((state) => state.page.id === page) + 1 };
  }

  async function keep(name: string): Promise<void> {
    const state = pageStateOf(desk.scene!, keeping.value!.page)!;
    await attempt(async () => {
      await files.sent();
      await api.keepTemplate(lesson.document!.id, { name, page: state.page, pieces: toBase64(contentsOf(state)) });
      keeping.value = null;
      bringIn.notice = `“${name}” is among your page templates now.`;
    });
  }

  /** Starts a page from a template, after the page shown. */
  async function start({ id, page }: Template): Promise<void> {
    await attempt(async () => {
      await api.lendFiles(lesson.document!.id, id);
      pages.insert([copyOf(pageStateFrom(page, decodeContents(await api.templatePieces(id))))]);
      isChoosing.value = false;
    });
  }

  async function drop({ id }: Template): Promise<void> {
    await attempt(async () => {
      await api.dropTemplate(id);
      list.value = list.value!.filter((one) => one.id !== id);
    });
  }

  async function attempt(act: () => Promise<unknown>): Promise<void> {
    problem.value = null;
    try {
      await act();
    } catch (error) {
      problem.value = (error as Error).message;
    }
  }

  return { list, isChoosing, keeping, problem, choose, askName, keep, start, drop };
});
