import type { RectPt } from '@kite-trail/core/lesson/rect';
import { shownPage } from '@kite-trail/core/lesson/scene';
import type { Images } from '@kite-trail/core/paint/picture';
import type { Placement } from '@kite-trail/core/paint/surface';
import { viewOf } from '@kite-trail/core/paint/view';
import type { Moment } from '@kite-trail/core/trail/timeline';
import { Stage } from '../playback/stage';

/** The page alone, as large as a window of its own lets it be: for a projector. It shows what it is given, at once. */
export class AudienceScreen {
  private readonly settled: HTMLCanvasElement;
  private readonly wet: CanvasRenderingContext2D;
  private readonly stage: Stage;
  /** What it was fitted to. */
  private fitted: unknown[] = [];

  constructor(
    private readonly window: Window,
    images: () => Images,
  ) {
    const { document } = window;
    document.body.style.cssText = 'margin:0;height:100vh;display:grid;place-items:center;background:#1f2a44';
    const page = document.createElement('div');
    page.style.cssText = 'position:relative;line-height:0';
    this.settled = page.appendChild(document.createElement('canvas'));
    const wet = page.appendChild(document.createElement('canvas'));
    wet.style.cssText = 'position:absolute;inset:0';
    document.body.replaceChildren(page);
    this.wet = wet.getContext('2d')!;
    this.stage = new Stage(this.settled, images);
  }

  /** @param look the part of the page to be seen, or all of it */
  show(moment: Moment, look: RectPt | null): void {
    const { page } = shownPage(moment.scene);
    const { innerWidth: widthPx, innerHeight: heightPx, devicePixelRatio } = this.window;
    const fitting = [page, look, widthPx, heightPx, devicePixelRatio];
    if (fitting.every((one, i) => one === this.fitted[i])) return this.stage.show(moment);
    this.fitted = fitting;
    const box = { widthPx, heightPx };
    const size = this.stage.fit(moment, box, viewOf(page, box, look));
    for (const canvas of [this.settled, this.wet.canvas]) {
      canvas.style.width = `${size.widthPx}px`;
      canvas.style.height = `${size.heightPx}px`;
    }
    this.wet.canvas.width = this.settled.width;
    this.wet.canvas.height = this.settled.height;
  }

  /** Shows what is not settled yet, above the page. */
  showWet(paint: (surface: CanvasRenderingContext2D, placement: Placement) => void): void {
    this.wet.setTransform(1, 0, 0, 1, 0, 0);
    this.wet.clearRect(0, 0, this.wet.canvas.width, this.wet.canvas.height);
    paint(this.wet, this.stage.placement);
  }

  repaint(): void {
    this.stage.repaint();
  }
}
