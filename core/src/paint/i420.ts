import type { PixelRect } from './painter';

/** A picture as planes: full-size luma, then both chromas at half size each way (4:2:0). */
export class I420Picture {
  readonly bytes: Uint8Array<ArrayBuffer>;

  /** @param widthPx and @param heightPx must be even */
  constructor(
    readonly widthPx: number,
    readonly heightPx: number,
  ) {
    this.bytes = new Uint8Array((widthPx * heightPx * 3) / 2);
  }

  /**
   * Converts a rectangle of RGBA pixels into its place, by the matrix of ITU-R BT.709-6 in limited range (luma 16 to
   * 235, chroma 16 to 240).
   * @param rect even in position and size
   */
  put(rgba: Uint8ClampedArray, rect: PixelRect): void {
    const { widthPx, heightPx, bytes } = this;
    const chromaWidth = widthPx / 2;
    const uStart = widthPx * heightPx;
    const vStart = uStart + chromaWidth * (heightPx / 2);
    const stride = rect.width * 4;
    for (let y = 0; y < rect.height; y += 2) {
      for (let x = 0; x < rect.width; x += 2) {
        const at = y * stride + x * 4;
        let [red, green, blue] = [0, 0, 0];
        for (let corner = 0; corner < 4; corner++) {
          const [dx, dy] = [corner & 1, corner >> 1];
          const pixel = at + dx * 4 + dy * stride;
          const r = rgba[pixel];
          const g = rgba[pixel + 1];
          const b = rgba[pixel + 2];
          red += r;
          green += g;
          blue += b;
          // The coefficients 0.2126, 0.7152, 0.0722 scaled by 219/255 and 2^16.
          const luma = (11966 * r + 40254 * g + 4064 * b + 32768) >> 16;
          bytes[(rect.y + y + dy) * widthPx + rect.x + x + dx] = 16 + luma;
        }
        const chroma = ((rect.y + y) >> 1) * chromaWidth + ((rect.x + x) >> 1);
        // (B − Y) / 1.8556 and (R − Y) / 1.5748, scaled by 224/255 and 2^16, for the sum of four pixels.
        bytes[uStart + chroma] = 128 + ((-6596 * red - 22189 * green + 28784 * blue + 131072) >> 18);
        bytes[vStart + chroma] = 128 + ((28784 * red - 26145 * green - 2639 * blue + 131072) >> 18);
      }
    }
  }
}

/** The smallest rectangle of even position and size around this one, within a picture. */
export function evenRect(rect: PixelRect, picture: { widthPx: number; heightPx: number }): PixelRect {
  const x = rect.x & ~1;
  const y = rect.y & ~1;
  return {
    x,
    y,
    width: Math.min(picture.widthPx, (rect.x + rect.width + 1) & ~1) - x,
    height: Math.min(picture.heightPx, (rect.y + rect.height + 1) & ~1) - y,
  };
}
