import type { PieceId } from '@kite-trail/core/lesson/ids';
import { cropped, cutAlong, fitted, pictureAt, settled } from '@kite-trail/core/lesson/picture';
import { pageRect } from '@kite-trail/core/lesson/page';
import { WHOLE, type Crop, type Frame, type Picture } from '@kite-trail/core/lesson/piece';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { nanoid } from 'nanoid';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { useDesk } from './desk';

const ASIDE_PT = 18;

/** The picture the teacher has taken hold of, and what can be done with it. */
export const useHeld = defineStore('held', () => {
  const desk = useDesk();
  const id = ref<PieceId | null>(null);
  /** What the next line drawn, or the handles, are for. */
  const doing = ref<'moving' | 'cropping' | 'cutting'>('moving');
  /** What the crop handles leave. */
  const cropTo = ref<Crop | null>(null);

  const picture = computed<Picture | null>(() => {
    if (!desk.scene || id.value === null) return null;
    const piece = shownPage(desk.scene).pieces.find((one) => one.id === id.value);
    return piece?.kind === 'picture' ? piece : null;
  });

  function takeAt(at: { xPt: number; yPt: number }): Picture | null {
    const found = pictureAt(shownPage(desk.scene!).pieces, at) ?? null;
    take(found?.id ?? null);
    return found;
  }

  function take(piece: PieceId | null): void {
    id.value = piece;
    doing.value = 'moving';
  }

  function alter(changed: Picture): void {
    desk.change({ kind: 'alter', page: desk.scene!.shown, pieces: [changed] });
  }

  /** Gives the picture a new frame, as one state of a gesture. */
  function frame(changed: Partial<Frame>): void {
    if (picture.value) alter(settled({ ...picture.value, frame: { ...picture.value.frame, ...changed } }));
  }

  function mirror(): void {
    if (picture.value) frame({ mirrored: !picture.value.frame.mirrored });
  }

  function fit(by: 'width' | 'height' | 'page'): void {
    if (picture.value) alter(fitted(picture.value, pageRect(shownPage(desk.scene!).page), by));
  }

  function fade(opacity: number): void {
    if (picture.value) alter(settled({ ...picture.value, opacity }));
  }

  function lock(locked: boolean): void {
    if (picture.value) alter({ ...picture.value, locked });
  }

  function startCrop(): void {
    cropTo.value = picture.value?.crop ?? null;
    doing.value = 'cropping';
  }

  function crop(): void {
    if (picture.value && cropTo.value) alter(cropped(picture.value, cropTo.value));
    doing.value = 'moving';
  }

  function cutOut(line: readonly { xPt: number; yPt: number }[]): void {
    if (picture.value) alter(cutAlong(picture.value, line));
    doing.value = 'moving';
  }

  /** Shows all of it again. */
  function uncut(): void {
    if (picture.value) alter(cropped({ ...picture.value, cutOut: new Float32Array() }, WHOLE));
  }

  function duplicate(): void {
    if (!picture.value) return;
    const { frame: own } = picture.value;
    const copy = settled({
      ...picture.value,
      id: nanoid(12) as PieceId,
      z: desk.nextZ(),
      frame: { ...own, xPt: own.xPt + ASIDE_PT, yPt: own.yPt + ASIDE_PT },
    });
    desk.change({ kind: 'place', page: desk.scene!.shown, pieces: [copy] });
    take(copy.id);
  }

  /** One step over, or under, whatever piece comes next. */
  function restack(by: 1 | -1): void {
    const { page, pieces } = shownPage(desk.scene!);
    const at = pieces.findIndex((one) => one.id === id.value);
    const [own, other] = [pieces[at], pieces[at + by]];
    if (!own || !other) return;
    // Pieces may share a height; then the two trade places by a step.
    const z = own.z === other.z ? Math.max(0, own.z + by) : other.z;
    const otherZ = own.z === other.z ? other.z : own.z;
    desk.change({
      kind: 'alter',
      page: page.id,
      pieces: [
        { ...own, z },
        { ...other, z: otherZ },
      ],
    });
  }

  function lift(): void {
    if (picture.value) desk.change({ kind: 'lift', page: desk.scene!.shown, pieceIds: [picture.value.id] });
    take(null);
  }

  return {
    picture,
    doing,
    cropTo,
    takeAt,
    take,
    frame,
    mirror,
    fit,
    fade,
    lock,
    startCrop,
    crop,
    cutOut,
    uncut,
    duplicate,
    restack,
    lift,
  };
});
