/** A student's browser, of whichever make: what the watch page is tried with in all of them. */
export interface Viewer {
  open(url: string): Promise<void>;
  /** Presses the button of this name. */
  press(name: string): Promise<void>;
  /** Clicks at a place of the window, in CSS pixels. */
  clickAt(x: number, y: number): Promise<void>;
  /** Does something in the page. */
  run<Args extends unknown[], Result>(work: (...args: Args) => Result, ...args: Args): Promise<Awaited<Result>>;
  close(): Promise<void>;
}
