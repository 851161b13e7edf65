import { ref, shallowRef } from 'vue';
import { useNotices } from '../lesson/notices';
import { ofLesson } from '../lesson/lesson-scope';

/** How often it is looked whether a window that was left is back, and for how long. */
const CHECKED_EVERY_MS = 100;
const BACK_WITHIN_MS = 5000;

/** A second window with the page alone, which follows what the teacher does. */
export const useAudience = ofLesson(() => {
  /** What the page is shown in; `null` also while it is being reloaded. */
  const window = shallowRef<Window | null>(null);
  /** Changes whenever the window has another size. */
  const resizes = ref(0);
  const problem = useNotices().place('problem');
  let opened: Window | null = null;

  function open(title: string): void {
    opened = globalThis.window.open('', 'kite-trail-audience', 'popup,width=960,height=560');
    problem.value = opened
      ? null
      : 'The browser kept the audience window from opening. Allow this site to open windows, then try again.';
    if (!opened) return;
    globalThis.window.addEventListener('pagehide', close, { once: true });
    layOut(opened, title);
  }

  function layOut(into: Window, title: string): void {
    // A document of our own: an empty one would be without the modern layout.
    into.document.open();
    into.document.write('<!doctype html><html lang="en"><body></body></html>');
    into.document.close();
    into.document.title = `${title} (F for the whole screen)`;
    into.addEventListener('resize', () => resizes.value++);
    into.addEventListener('pagehide', () => void left(into, title));
    into.addEventListener('dblclick', () => wholeScreen(into.document));
    into.addEventListener('keydown', ({ key }) => key.toLowerCase() === 'f' && wholeScreen(into.document));
    window.value = into;
  }

  /** A window that is reloaded comes up empty: what was in it is laid out anew. */
  async function left(from: Window, title: string): Promise<void> {
    window.value = null;
    const isBack = await isLoadedAnew(from);
    // Meanwhile it may have been closed, or opened again, by the teacher.
    if (opened !== from || window.value) return;
    if (isBack) layOut(from, title);
    else close();
  }

  function close(): void {
    opened?.close();
    opened = window.value = null;
  }

  const toggle = (title: string) => (window.value ? close() : open(title));

  return { window, resizes, toggle, close };
});

/** Whether another window, which was left, has another document of ours within a while. Nobody tells of that. */
async function isLoadedAnew(other: Window): Promise<boolean> {
  const before = other.document;
  for (let waitedMs = 0; waitedMs < BACK_WITHIN_MS && !other.closed; waitedMs += CHECKED_EVERY_MS) {
    await new Promise((resolve) => setTimeout(resolve, CHECKED_EVERY_MS));
    try {
      if (!other.closed && other.document !== before && other.document.readyState === 'complete') return true;
    } catch {
      // Somebody went to another site in it.
      return false;
    }
  }
  return false;
}

function wholeScreen(document: Document): void {
  void (document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen());
}
