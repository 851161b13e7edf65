import { ref, shallowRef } from 'vue';
import { useNotices } from '../lesson/notices';
import { ofLesson } from '../lesson/lesson-scope';

/** How often it is looked whether a window that was left has closed. */
const LOOKED_AT_MS = 100;

/** A second window with the page alone, which follows what the teacher does. */
export const useAudience = ofLesson(() => {
  const window = shallowRef<Window | null>(null);
  /** Changes whenever the window has another size. */
  const resizes = ref(0);
  const problem = useNotices().place('problem');

  function open(title: string): void {
    const opened = globalThis.window.open('', 'kite-trail-audience', 'popup,width=960,height=560');
    problem.value = opened
      ? null
      : 'The browser kept the audience window from opening. Allow this site to open windows, then try again.';
    if (!opened) return;
    globalThis.window.addEventListener('pagehide', close, { once: true });
    layOut(opened, title);
  }

  function layOut(opened: Window, title: string): void {
    // A document of our own: an empty one would be without the modern layout.
    opened.document.open();
    opened.document.write('<!doctype html><html lang="en"><body></body></html>');
    opened.document.close();
    opened.document.title = `${title} (F for the whole screen)`;
    opened.addEventListener('resize', () => resizes.value++);
    opened.addEventListener('pagehide', () => void left(opened, title));
    opened.addEventListener('dblclick', () => wholeScreen(opened.document));
    opened.addEventListener('keydown', ({ key }) => key.toLowerCase() === 'f' && wholeScreen(opened.document));
    window.value = opened;
  }

  /** A window that is reloaded comes up empty: what was in it is laid out anew. */
  async function left(opened: Window, title: string): Promise<void> {
    window.value = null;
    const before = opened.document;
    await until(() => opened.closed || (opened.document !== before && opened.document.readyState === 'complete'));
    if (!opened.closed) layOut(opened, title);
  }

  function close(): void {
    window.value?.close();
    window.value = null;
  }

  const toggle = (title: string) => (window.value ? close() : open(title));

  return { window, resizes, toggle, close };
});

/** Settles when it is so. Nobody tells when another window's document has been loaded anew. */
async function until(isSo: () => boolean): Promise<void> {
  while (!isSo()) await new Promise((resolve) => setTimeout(resolve, LOOKED_AT_MS));
}

function wholeScreen(document: Document): void {
  void (document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen());
}
