import { ref, shallowRef } from 'vue';
import { useNotices } from '../lesson/notices';
import { ofLesson } from '../lesson/lesson-scope';

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
    // A document of our own: an empty one would be without the modern layout.
    opened.document.open();
    opened.document.write('<!doctype html><html lang="en"><body></body></html>');
    opened.document.close();
    opened.document.title = `${title} (F for the whole screen)`;
    opened.addEventListener('resize', () => resizes.value++);
    opened.addEventListener('pagehide', () => (window.value = null));
    opened.addEventListener('dblclick', () => wholeScreen(opened.document));
    opened.addEventListener('keydown', ({ key }) => key.toLowerCase() === 'f' && wholeScreen(opened.document));
    globalThis.window.addEventListener('pagehide', close, { once: true });
    window.value = opened;
  }

  function close(): void {
    window.value?.close();
    window.value = null;
  }

  const toggle = (title: string) => (window.value ? close() : open(title));

  return { window, resizes, toggle, close };
});

function wholeScreen(document: Document): void {
  void (document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen());
}
