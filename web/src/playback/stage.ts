import { isEmptyRect } from '@kite-trail/core/lesson/rect';
import { shownPage } from '@kite-trail/core/lesson/scene';
import { paintPage } from '@kite-trail/core/paint/painter';
import type { Images } from '@kite-trail/core/paint/picture';
import type { Placement } from '@kite-trail/core/paint/surface';
import { viewOf, viewport, type Box, type View } from '@kite-trail/core/paint/view';
import { differenceBetween } from '@kite-trail/core/trail/difference';
import type { Moment } from '@kite-trail/core/trail/timeline';

/** Shows moments on a canvas that is exactly as large as the page, repainting only what differs. */
export class Stage {
  private readonly surface: CanvasRenderingContext2D;
  private shown: Moment | null = null;
  /** Where the page shown lies on the canvas, in the canvas's pixels. */
  placement: Placement = { leftPx: 0, topPx: 0, pxPerPt: 1 };

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly images: () => Images,
  ) {
    this.surface = canvas.getContext('2d', { alpha: false })!;
  }

  /**
   * Shows a part of the page in a box of CSS pixels, crisp on this screen; without a view, what is looked at in the moment.
   * @returns how much of the box the canvas takes, in CSS pixels, and where on it the page lies
   */
  fit(moment: Moment, box: Box, view?: View): Box & { placement: Placement } {
    const { page } = shownPage(moment.scene);
    const inCss = viewport(page, box, view ?? viewOf(page, box, moment.scene.look));
    const density = this.canvas.ownerDocument.defaultView?.devicePixelRatio || 1;
    const { pxPerPt, leftPx, topPx } = inCss.placement;
    const [width, height] = [Math.round(inCss.widthPx * density), Math.round(inCss.heightPx * density)];
    if (this.canvas.width !== width || this.canvas.height !== height) {
      this.canvas.width = width;
      this.canvas.height = height;
    }
    this.placement = { pxPerPt: pxPerPt * density, leftPx: leftPx * density, topPx: topPx * density };
    this.shown = null;
    this.show(moment);
    return inCss;
  }

  show(moment: Moment): void {
    const difference = this.shown ? differenceBetween(this.shown, moment) : 'whole';
    this.shown = moment;
    const region = difference === 'whole' ? undefined : difference;
    if (region && isEmptyRect(region)) return;
    paintPage(this.surface, shownPage(moment.scene), this.placement, this.images(), moment, region);
  }

  /** Paints all of it again, such as when a picture has arrived. */
  repaint(): void {
    const moment = this.shown;
    this.shown = null;
    if (moment) this.show(moment);
  }
}
