/**
 * Boxes from left to right, of which those that touch and look alike are filled as one: of an hour's strokes, waves and
 * captions a pixel holds several, and every box that is filled costs its time.
 */
export class FillRun {
  private color = '';
  private from = 0;
  private to = 0;
  private top = 0;
  private height = 0;

  constructor(private readonly surface: CanvasRenderingContext2D) {}

  add(color: string, from: number, to: number, top: number, height: number): void {
    const goesOn = color === this.color && top === this.top && height === this.height;
    if (goesOn && from >= this.from && from <= this.to) {
      this.to = Math.max(this.to, to);
      return;
    }
    this.end();
    Object.assign(this, { color, from, to, top, height });
  }

  /** Fills what is left. */
  end(): void {
    if (this.to === this.from) return;
    this.surface.fillStyle = this.color;
    this.surface.fillRect(this.from, this.top, this.to - this.from, this.height);
    this.to = this.from;
  }
}
