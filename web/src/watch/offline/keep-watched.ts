import { filesIn, filesOn } from '@kite-trail/core/lesson/files';
import type { Timeline } from '@kite-trail/core/trail/timeline';
import { idle } from '../../device/idle';
import { carried } from '../opening/carried';
import type { Watched } from '../opening/load';

/** Keeps a lesson on this device once it has been loaded, so that it plays without a network. Browsers that cannot do so go without. */
export async function keepWatched(watched: Watched, timeline: Timeline): Promise<void> {
  if (carried() || !('serviceWorker' in navigator)) return;
  await idle();
  try {
    await navigator.serviceWorker.register('/watch-offline.js', { scope: '/w/' });
    const { active } = await navigator.serviceWorker.ready;
    await loadParts();
    active?.postMessage({ keep: watched.about.publication, urls: await urlsOf(watched, timeline) });
  } catch {
    // Private windows keep nothing.
  }
}

/** What only some need of the page is there without a network, too. */
const loadParts = () =>
  Promise.all([
    import('../page/PageList.vue'),
    import('../page/printing'),
    import('../reading/Transcript.vue'),
    import('../steering/WaysPanel.vue'),
  ]);

async function urlsOf(watched: Watched, timeline: Timeline): Promise<string[]> {
  const { about, captionsUrl, fileUrl, soundUrl } = watched;
  const files = [...timeline.base.pages.flatMap(filesOn), ...timeline.trail.marks.flatMap(filesIn)];
  const loaded = performance.getEntriesByType('resource').map(({ name }) => name);
  const sound = soundUrl('' as never);
  return [
    ...new Set([
      location.pathname,
      ...loaded.filter((url) => url.startsWith(location.origin) && !url.includes('/sound')),
      ...files.map(({ asset, pageIndex }) => new URL(fileUrl(asset, pageIndex), location.origin).href),
      ...(about.hasCaptions ? [new URL(captionsUrl, location.origin).href] : []),
      ...(sound ? [new URL(sound, location.origin).href] : []),
    ]),
  ];
}
