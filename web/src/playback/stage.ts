import { isEmptyRect } from '@kite-trail/core/lesson/rect';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import type { Placement } from '@kite-trail/core/paint/surface';
import { differenceBetween } from '@kite-trail/core/trail/difference';
import type { Moment } from '@kite-trail/core/trail/timeline';

/** Shows moments on a canvas that is exactly as large as the page, repainting only what differs. */
export class Stage {
  private readonly surface: CanvasRenderingContext2D;
  private shown: Moment | null = null;
  private pxPerPt = 1;

  constructor(private readonly canvas: HTMLCanvasElement) {
    this.surface = canvas.getContext('2d', { alpha: false })!;
  }

  get placement(): Placement {
    return { leftPx: 0, topPx: 0, pxPerPt: this.pxPerPt };
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
    paintPage(this.surface, shownPage(moment.scene), this.placement, moment.growing, region);
  }
}

/** A scene in which nothing is being written. */
export const still = (scene: Moment['scene']): Moment => ({ scene, growing: new Map() });
