import type { FilmSettings, PixelSize } from '@kite-trail/core/film/settings';
import { isEmptyRect, type RectPt } from '@kite-trail/core/lesson/rect';
import { shownPage, type PageState } from '@kite-trail/core/lesson/scene';
import { evenRect, I420Picture } from '@kite-trail/core/paint/i420';
import { pagePixels, paintPage, type PixelRect } from '@kite-trail/core/paint/painter';
import { findAll } from '@kite-trail/core/paint/picture';
import { fitPage, type Placement } from '@kite-trail/core/paint/surface';
import { placedFor } from '@kite-trail/core/paint/view';
import { differenceBetween } from '@kite-trail/core/trail/difference';
import type { Moment } from '@kite-trail/core/trail/timeline';
import type { ImageStore } from '../../pictures/image-store';
import { drawCaption, drawTitle } from './lettering';

/** Captions lie below the page, so that they hide nothing of it: so much of the picture's height is theirs. */
const CAPTION_SHARE = 0.15;

/** Keeps the picture of the moment last taken, and converts only what differs in the next one. */
export class Camera {
  readonly picture: I420Picture;
  private readonly surface: OffscreenCanvasRenderingContext2D;
  /** Where the page may lie. */
  private readonly room: PixelSize;
  private last: Moment | null = null;
  private caption = '';
  private gathered: PageState | null = null;

  constructor(
    private readonly size: PixelSize,
    private readonly settings: Pick<FilmSettings, 'surround' | 'captions'>,
    private readonly images: ImageStore,
    canvas = new OffscreenCanvas(size.widthPx, size.heightPx),
  ) {
    this.picture = new I420Picture(size.widthPx, size.heightPx);
    this.surface = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
    const captionPx = settings.captions === 'drawn' ? Math.round((size.heightPx * CAPTION_SHARE) / 2) * 2 : 0;
    this.room = { widthPx: size.widthPx, heightPx: size.heightPx - captionPx };
  }

  /** How the page of a moment lies in the picture. */
  placementOf({ scene }: Moment): Placement {
    const { page } = shownPage(scene);
    return scene.look ? placedFor(page, this.room, scene.look) : fitPage(page, this.room);
  }

  /** @throws Error where a picture of the page cannot be had */
  async take(moment: Moment, caption: string): Promise<void> {
    const difference = this.last ? differenceBetween(this.last, moment) : 'whole';
    this.last = moment;
    const state = shownPage(moment.scene);
    const placement = this.placementOf(moment);
    await this.gather(state, placement.pxPerPt);
    if (difference === 'whole') {
      this.clear();
      this.paint(state, placement, moment);
      this.drawCaption((this.caption = caption));
      this.readAll();
      return;
    }
    if (!isEmptyRect(difference)) {
      this.paint(state, placement, moment, difference);
      this.read(evenRect(pagePixels(state.page, placement, difference), this.room));
    }
    if (caption !== this.caption) {
      this.drawCaption((this.caption = caption));
      const { widthPx, heightPx } = this.room;
      this.read({ x: 0, y: heightPx, width: widthPx, height: this.size.heightPx - heightPx });
    }
  }

  /** A picture with the lesson's name, and nothing else. */
  takeTitle(title: string): void {
    this.clear();
    drawTitle(this.surface, title, this.size);
    this.readAll();
    this.last = null;
  }

  private clear(): void {
    this.surface.setTransform(1, 0, 0, 1, 0, 0);
    this.surface.fillStyle = this.settings.surround;
    this.surface.fillRect(0, 0, this.size.widthPx, this.size.heightPx);
  }

  /** A page that is looked at closely reaches no further than its room. */
  private paint(state: PageState, placement: Placement, moment: Moment, region?: RectPt): void {
    this.surface.save();
    this.surface.setTransform(1, 0, 0, 1, 0, 0);
    this.surface.beginPath();
    this.surface.rect(0, 0, this.room.widthPx, this.room.heightPx);
    this.surface.clip();
    paintPage(this.surface, state, placement, this.images, moment, region);
    this.surface.restore();
  }

  private drawCaption(text: string): void {
    const { widthPx, heightPx } = this.room;
    const captionPx = this.size.heightPx - heightPx;
    if (captionPx > 0) drawCaption(this.surface, text, { x: 0, y: heightPx, width: widthPx, height: captionPx });
  }

  /** A film waits for its pictures; a page on the screen does not. */
  private async gather(state: PageState, pxPerPt: number): Promise<void> {
    if (state === this.gathered) return;
    this.gathered = state;
    if (findAll(state, this.images, pxPerPt)) return;
    await this.images.settled();
    if (!findAll(state, this.images, pxPerPt)) {
      throw new Error('A picture of this lesson cannot be loaded just now. Try again in a moment.');
    }
  }

  private readAll(): void {
    this.read({ x: 0, y: 0, width: this.size.widthPx, height: this.size.heightPx });
  }

  private read(rect: PixelRect): void {
    if (rect.width <= 0 || rect.height <= 0) return;
    this.picture.put(this.surface.getImageData(rect.x, rect.y, rect.width, rect.height).data, rect);
  }
}
