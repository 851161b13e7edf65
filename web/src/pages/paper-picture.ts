import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { MapPart } from '@kite-trail/core/maps/outline-map';
import type { Drawable, Images } from '@kite-trail/core/paint/picture';
import { wrap, type Remote } from 'comlink';
import { ref, shallowRef } from 'vue';
import { preparePicture } from '../pictures/prepare-picture';
import type { MapWorker } from '../workers/map.worker';
import MapDrawer from '../workers/map.worker?worker';
import { useFiles } from '../lesson/files';
import { ofLesson } from '../lesson/lesson-scope';

/** Stands for a picture that is looked at, but that the lesson does not have yet. */
const TRIED = 'tried' as AssetId;

let drawer: Remote<MapWorker> | null = null;

/** A picture or map that may become a page's ground: it can be looked at before the lesson gets it. */
export const usePaperPicture = ofLesson(() => {
  const files = useFiles();
  const problem = ref<string | null>(null);
  const tried = shallowRef<(Drawable & { name: string; blob: Blob }) | null>(null);
  let turn = 0;

  /** Tries a picture of the teacher's own. @returns what it is called on the paper, or null if it cannot be used */
  const tryPicture = (file: File) => show(file.name, async () => (await preparePicture(file)).blob);

  /** Tries a blank map, drawn to fill a page of this shape. */
  const tryMap = (part: MapPart, lineColor: string, borders: boolean, shape: { widthPt: number; heightPt: number }) =>
    show(`${part}.png`, () => {
      drawer ??= wrap<MapWorker>(new MapDrawer());
      return drawer.draw(part, lineColor, borders, shape);
    });

  async function show(name: string, make: () => Promise<Blob>): Promise<AssetId | null> {
    const mine = ++turn;
    problem.value = null;
    try {
      const blob = await make();
      const image = await createImageBitmap(blob);
      // Whoever chose another one meanwhile has the say.
      if (mine !== turn) return TRIED;
      tried.value = { name, blob, image, widthPx: image.width, heightPx: image.height };
      return TRIED;
    } catch (error) {
      problem.value = (error as Error).message;
      return null;
    }
  }

  /** The lesson's pictures, and the one that is tried. */
  const images: Images = {
    find: (asset, pageIndex, widthPx) => (asset === TRIED ? tried.value : files.images.find(asset, pageIndex, widthPx)),
  };

  /** Gives the lesson the picture that is tried. @returns a paper's picture as it can be kept */
  async function kept(picture: AssetId | null): Promise<AssetId | null> {
    return picture === TRIED ? files.add(tried.value!.name, tried.value!.blob) : picture;
  }

  return { problem, images, tryPicture, tryMap, kept };
});
