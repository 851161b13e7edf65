/** How a trace is drawn, as far as its file says. */
export interface InkBrush {
  /** `#rrggbb` */
  color: string | null;
  widthPt: number | null;
  /** 0 to 1 */
  opacity: number | null;
  /** What lies under its ink stays to be seen. */
  isHighlighter: boolean;
  /** The name of a pen of ours. */
  pen: string | null;
}

/** From pen down to pen up. */
export interface InkTrace {
  xPt: number[];
  yPt: number[];
  /** 0 to 1; `NaN` where it is not told. */
  pressure: number[];
  /** Since it began; `NaN` where it is not told. */
  sinceMs: number[];
  /** How the pen leant (`ink/tilt`); `null` where that is not told, `NaN` at points where it is not. */
  tilt: { xDeg: number[]; yDeg: number[] } | null;
  /** When it began, on the file's own clock; `null` where that is not told. */
  atMs: number | null;
  brush: InkBrush;
  /** On which of the file's canvases it lies; `null` on the one that has no name. */
  canvas: string | null;
}

/** What an InkML file says. */
export interface InkFile {
  title: string | null;
  traces: InkTrace[];
}
