import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { LessonFileLoader } from '../pictures/lesson-file-loader';
import { ImageStore } from '../pictures/image-store';
import { assetIdOf, openHasher } from '../server/upload';
import { idle } from '../device/idle';
import { useOutbox } from '../app/outbox';
import { useDraft } from './draft';
import { ofLesson } from './lesson-scope';

/** The pictures and PDFs of the lesson that is open: what they look like, and which are still on their way. */
export const useFiles = ofLesson(() => {
  /** Goes up whenever a picture that is shown has arrived. */
  const arrivals = ref(0);
  /** How many pictures or PDF pages that are shown cannot be had just now. */
  const missing = ref(0);
  const outbox = useOutbox();
  const draft = useDraft();
  const local = new Map<AssetId, Blob>();
  const images = shallowRef(new ImageStore(() => Promise.reject(new Error('No lesson is open.'))));
  const loader = shallowRef<LessonFileLoader | null>(null);
  let lesson: LessonId | null = null;

  const isSending = computed(() => outbox.status.filesOwed > 0);

  async function open(id: LessonId): Promise<void> {
    lesson = id;
    loader.value = new LessonFileLoader(id, (asset) => local.get(asset));
    const store = new ImageStore(loader.value.load);
    store.onArrival = () => arrivals.value++;
    store.onMissing = (count) => (missing.value = count);
    missing.value = 0;
    images.value = store;
    arrivals.value++;
    // While there is a network: pictures can be brought in without one, too.
    void idle().then(openHasher);
    // Files that an earlier visit could not send are shown from here.
    for (const { entry, payload } of await (await outbox.open()).owedBy(id)) {
      if (entry.head.kind === 'file') local.set(entry.head.asset, payload as Blob);
    }
  }

  onScopeDispose(() => {
    images.value.dispose();
    loader.value?.dispose();
  });

  /** Gives the lesson a file. It can be shown once it is kept here, and is sent meanwhile. */
  async function add(name: string, blob: Blob): Promise<AssetId> {
    const asset = await assetIdOf(blob);
    local.set(asset, blob);
    await draft.addFile({ kind: 'file', asset, name, payload: blob });
    return asset;
  }

  /** Settles when the school has all files of the lesson, or they wait. */
  const sent = async (): Promise<void> =>
    lesson ? (await outbox.open()).settled(lesson, ({ head }) => head.kind === 'file') : undefined;

  return { arrivals, missing, images, loader, isSending, open, add, sent };
});
