import { isEmptyRect, type RectPt } from '../lesson/rect';
import { shownPage, type PageState } from '../lesson/scene';
import { evenRect, I420Picture } from '../paint/i420';
import { pagePixels, paintPage, type PixelRect } from '../paint/painter';
import type { Images } from '../paint/picture';
import { fitPage, type Placement } from '../paint/surface';
import { placedFor } from '../paint/view';
import { differenceBetween } from '../trail/difference';
import type { Moment } from '../trail/timeline';
import { drawCaption, drawTitle, type LetteredSurface } from './lettering';
import { pictureSize, type FilmSettings, type PixelSize } from './settings';

/** What a film's pictures are painted on: a canvas of a worker's, or of a server's. */
export interface FilmSurface extends LetteredSurface {
  getImageData(x: number, y: number, width: number, height: number): { data: Uint8ClampedArray };
}

/** Pictures of pages that a film waits for; a page on the screen does not. */
export interface GatheredImages extends Images {
  /** Makes sure that all a page shows is there. @throws Error where something of it cannot be had */
  gather(state: PageState, pxPerPt: number): Promise<void>;
}

/** What is told where something on a page cannot be had. */
export const NOT_GATHERED = 'A picture of this lesson cannot be loaded just now. Try again in a moment.';

type Looks = Pick<FilmSettings, 'surround' | 'captions'>;

/** Captions lie below the page, so that they hide nothing of it: so much of the picture's height is theirs. */
const CAPTION_SHARE = 0.15;

/** Where the page may lie in a film's picture. */
function roomIn({ widthPx, heightPx }: PixelSize, { captions }: Pick<FilmSettings, 'captions'>): PixelSize {
  const captionPx = captions === 'drawn' ? Math.round((heightPx * CAPTION_SHARE) / 2) * 2 : 0;
  return { widthPx, heightPx: heightPx - captionPx };
}

function placedIn(room: PixelSize, { scene }: Moment): Placement {
  const { page } = shownPage(scene);
  return scene.look ? placedFor(page, room, scene.look) : fitPage(page, room);
}

/** How the page of a moment lies in a film's picture, in pixels. */
export const placementInFilm = (settings: FilmSettings, moment: Moment): Placement =>
  placedIn(roomIn(pictureSize(settings), settings), moment);

/** Keeps the picture of the moment last taken, and converts only what differs in the next one. */
export class Camera {
  readonly picture: I420Picture;
  private readonly room: PixelSize;
  private last: Moment | null = null;
  private caption = '';
  private gathered: PageState | null = null;

  /** @param surface as large as the picture */
  constructor(
    private readonly surface: FilmSurface,
    private readonly size: PixelSize,
    private readonly looks: Looks,
    private readonly images: GatheredImages,
  ) {
    this.picture = new I420Picture(size.widthPx, size.heightPx);
    this.room = roomIn(size, looks);
  }

  /** @throws Error where a picture of the page cannot be had */
  async take(moment: Moment, caption: string): Promise<void> {
    const difference = this.last ? differenceBetween(this.last, moment) : 'whole';
    this.last = moment;
    const state = shownPage(moment.scene);
    const placement = placedIn(this.room, moment);
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
    this.surface.fillStyle = this.looks.surround;
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

  private async gather(state: PageState, pxPerPt: number): Promise<void> {
    if (state === this.gathered) return;
    this.gathered = state;
    await this.images.gather(state, pxPerPt);
  }

  private readAll(): void {
    this.read({ x: 0, y: 0, width: this.size.widthPx, height: this.size.heightPx });
  }

  private read(rect: PixelRect): void {
    if (rect.width <= 0 || rect.height <= 0) return;
    this.picture.put(this.surface.getImageData(rect.x, rect.y, rect.width, rect.height).data, rect);
  }
}
