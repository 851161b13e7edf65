import { isEmptyRect } from '@kite-trail/core/lesson/rect';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import type { Images } from '@kite-trail/core/paint/picture';
import type { Placement } from '@kite-trail/core/paint/surface';
import { differenceBetween } from '@kite-trail/core/trail/difference';
import type { Moment } from '@kite-trail/core/trail/timeline';

/** Shows moments on a canvas that is exactly as large as the page, repainting only what differs. */
export class Stage {
  private readonly surface: CanvasRenderingContext2D;
  private shown: Moment | null = null;
  private pxPerPt = 1;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly images: () => Images,
  ) {
    this.surface = canvas.getContext('2d', { alpha: false })!;
  }

  /** Where the page shown lies on the canvas: its top left corner in the canvas's. */
  get placement(): Placement {
    const { leftPt, topPt } = this.shown ? shownPage(this.shown.scene).page : { leftPt: 0, topPt: 0 };
    return { leftPx: -leftPt * this.pxPerPt, topPx: -topPt * this.pxPerPt, pxPerPt: this.pxPerPt };
  }

  /** Fits the page shown into a box of CSS pixels, crisp on this screen. @returns the page's size in CSS pixels */
  fit(moment: Moment, box: { width: number; height: number }): { width: number; height: number } {
    const { page } = shownPage(moment.scene);
    const scale = Math.max(0.05, Math.min(box.width / page.widthPt, box.height / page.heightPt));
    const width = Math.floor(page.widthPt * scale);
    const height = Math.floor(page.heightPt * scale);
    const density = window.devicePixelRatio || 1;
    this.canvas.width = Math.round(width * density);
    this.canvas.height = Math.round(height * density);
    this.pxPerPt = this.canvas.width / page.widthPt;
    this.shown = null;
    this.show(moment);
    return { width, height };
  }

  show(moment: Moment): void {
    const difference = this.shown ? differenceBetween(this.shown, moment) : 'whole';
    this.shown = moment;
    const region = difference === 'whole' ? undefined : difference;
    if (region && isEmptyRect(region)) return;
    paintPage(this.surface, shownPage(moment.scene), this.placement, this.images(), moment.growing, region);
  }

  /** Paints all of it again, such as when a picture has arrived. */
  repaint(): void {
    const moment = this.shown;
    this.shown = null;
    if (moment) this.show(moment);
  }
}

/** A scene in which nothing is being written. */
export const still = (scene: Moment['scene']): Moment => ({ scene, growing: new Map() });
