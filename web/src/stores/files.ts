import type { AssetId, LessonId } from '@kite-trail/core/lesson/ids';
import { wrap, type Remote } from 'comlink';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { Journal } from '../capture/journal';
import { LessonFileLoader } from '../pictures/lesson-file-loader';
import { ImageStore } from '../pictures/image-store';
import { api, Refused } from '../server/api';
import type { HashWorker } from '../workers/hash.worker';
import HashingWorker from '../workers/hash.worker?worker';

const TRY_AGAIN_MS = 3000;

/** The pictures and PDFs of the lesson that is open: what they look like, and which are still on their way. */
export const useFiles = defineStore('files', () => {
  /** Goes up whenever a picture that is shown has arrived. */
  const arrivals = ref(0);
  /** How many pictures or PDF pages that are shown cannot be had just now. */
  const missing = ref(0);
  const waiting = ref(0);
  const problem = ref<string | null>(null);
  const local = new Map<AssetId, Blob>();
  const images = shallowRef(new ImageStore(() => Promise.reject(new Error('No lesson is open.'))));
  const loader = shallowRef<LessonFileLoader | null>(null);
  let lesson: LessonId | null = null;
  let sending: Promise<void> = Promise.resolve();

  const isSending = computed(() => waiting.value > 0);

  async function open(id: LessonId): Promise<void> {
    images.value.dispose();
    loader.value?.dispose();
    local.clear();
    lesson = id;
    problem.value = null;
    loader.value = new LessonFileLoader(id, (asset) => local.get(asset));
    const store = new ImageStore(loader.value.load);
    store.onArrival = () => arrivals.value++;
    store.onMissing = (count) => (missing.value = count);
    missing.value = 0;
    images.value = store;
    arrivals.value++;
    // Files that an earlier visit could not send.
    if (!('indexedDB' in window)) return;
    for (const file of await (await Journal.open()).files(id)) send(id, file.asset, file.name, file.blob);
  }

  /** Gives the lesson a file. It can be shown at once, and is sent meanwhile. */
  async function add(name: string, blob: Blob): Promise<AssetId> {
    const asset = await assetIdOf(blob);
    send(lesson!, asset, name, blob);
    return asset;
  }

  function send(id: LessonId, asset: AssetId, name: string, blob: Blob): void {
    local.set(asset, blob);
    waiting.value++;
    sending = sending.then(async () => {
      try {
        const journal = await Journal.open();
        await journal.keepFile({ asset, lesson: id, name, blob });
        await sendSafely(id, name, blob);
        problem.value = null;
        await journal.forgetFile(id, asset);
      } catch (error) {
        problem.value = `${name}: ${(error as Error).message}`;
      }
      waiting.value--;
    });
  }

  /** A lost network only makes it wait. @throws Refused when the server will never take it */
  async function sendSafely(id: LessonId, name: string, blob: Blob): Promise<void> {
    for (;;) {
      try {
        return void (await api.addFile(id, name, blob));
      } catch (error) {
        if (error instanceof Refused) {
          if (error.status < 500 && error.status !== 401) throw error;
          // Such as a server whose disk is full: it goes on waiting, and says for what.
          problem.value = `${name} is not on the server yet: ${error.message}`;
        }
        await new Promise((resolve) => setTimeout(resolve, TRY_AGAIN_MS));
      }
    }
  }

  /** Settles when the server has all files it will take. */
  const sent = (): Promise<void> => sending;

  return { arrivals, missing, images, loader, isSending, problem, open, add, sent };
});

let hasher: Remote<HashWorker> | null = null;

/** Files are named by the SHA-256 of their bytes. */
async function assetIdOf(blob: Blob): Promise<AssetId> {
  hasher ??= wrap<HashWorker>(new HashingWorker());
  return (await hasher.sha256(blob)) as AssetId;
}
