import type { AssetId } from '@kite-trail/core/lesson/ids';
import type { Drawable, Images } from '@kite-trail/core/paint/picture';

/** Gets the pixels of a picture, or of a PDF's page about this many pixels across. */
export type ImageLoader = (asset: AssetId, pageIndex: number | null, widthPx: number) => Promise<ImageBitmap>;

const MEGABYTE = 2 ** 20;
/** What decoded pixels may take; those not asked for longest go first. */
const MOST_BYTES = 256 * MEGABYTE;
const BYTES_PER_PIXEL = 4;
/** PDF pages are drawn at these widths, so that a little zooming asks for nothing new. */
const LEAST_WIDTH_PX = 226;
const STEPS_PER_OCTAVE = 2;
const LARGEST_STEP = 9;
const TRY_AGAIN_MS = 4000;

interface Entry extends Drawable {
  image: ImageBitmap;
  step: number;
}

/** Pictures and PDF pages, loaded when they are first looked for, as fine as they are shown. */
export class ImageStore implements Images {
  /** Something that was looked for in vain, or not fine enough, is there now. */
  onArrival: () => void = () => {};
  private readonly entries = new Map<string, Entry>();
  private readonly loading = new Map<string, Promise<void>>();
  /** How many of those looked for cannot be had just now; they are tried again by and by. */
  onMissing: (count: number) => void = () => {};
  private readonly missing = new Map<string, ReturnType<typeof setTimeout>>();
  private toldMissing = 0;
  private bytes = 0;

  constructor(private readonly load: ImageLoader) {}

  find(asset: AssetId, pageIndex: number | null, widthPx: number): Drawable | null {
    const source = `${asset} ${pageIndex}`;
    const step = pageIndex === null ? 0 : stepOf(widthPx);
    const exact = this.entries.get(`${source} ${step}`);
    if (exact) {
      this.touch(`${source} ${step}`, exact);
      return exact;
    }
    this.request(asset, pageIndex, step);
    return this.nearest(source, step);
  }

  /** Settles when all that was looked for so far is there, or cannot be had. */
  async settled(): Promise<void> {
    while (this.loading.size > 0) await Promise.all(this.loading.values());
  }

  dispose(): void {
    for (const timer of this.missing.values()) clearTimeout(timer);
    this.missing.clear();
    for (const { image } of this.entries.values()) image.close();
    this.entries.clear();
    this.bytes = 0;
  }

  private nearest(source: string, step: number): Entry | null {
    let best: Entry | null = null;
    for (const [key, entry] of this.entries) {
      if (!key.startsWith(source + ' ')) continue;
      if (!best || Math.abs(entry.step - step) < Math.abs(best.step - step)) best = entry;
    }
    return best;
  }

  private request(asset: AssetId, pageIndex: number | null, step: number): void {
    const key = `${asset} ${pageIndex} ${step}`;
    if (this.loading.has(key) || this.missing.has(key)) return;
    const loading = this.load(asset, pageIndex, widthOf(step))
      .then((image) => {
        this.keep(key, { image, widthPx: image.width, heightPx: image.height, step });
        this.onArrival();
        this.tellMissing();
      })
      .catch(() => this.miss(key, () => this.request(asset, pageIndex, step)))
      .finally(() => this.loading.delete(key));
    this.loading.set(key, loading);
  }

  private miss(key: string, tryAgain: () => void): void {
    const again = () => {
      this.missing.delete(key);
      tryAgain();
    };
    this.missing.set(key, setTimeout(again, TRY_AGAIN_MS));
    this.tellMissing();
  }

  private tellMissing(): void {
    if (this.missing.size === this.toldMissing) return;
    this.toldMissing = this.missing.size;
    this.onMissing(this.toldMissing);
  }

  private keep(key: string, entry: Entry): void {
    this.entries.set(key, entry);
    this.bytes += bytesOf(entry);
    for (const [oldest, old] of this.entries) {
      if (this.bytes <= MOST_BYTES || oldest === key) break;
      this.entries.delete(oldest);
      this.bytes -= bytesOf(old);
      old.image.close();
    }
  }

  /** Maps keep the order of insertion: what was asked for last stands last. */
  private touch(key: string, entry: Entry): void {
    this.entries.delete(key);
    this.entries.set(key, entry);
  }
}

const bytesOf = ({ widthPx, heightPx }: Drawable) => widthPx * heightPx * BYTES_PER_PIXEL;
const stepOf = (widthPx: number) =>
  Math.min(LARGEST_STEP, Math.max(0, Math.ceil(Math.log2(widthPx / LEAST_WIDTH_PX) * STEPS_PER_OCTAVE)));
const widthOf = (step: number) => Math.round(LEAST_WIDTH_PX * 2 ** (step / STEPS_PER_OCTAVE));
