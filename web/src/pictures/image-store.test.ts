import type { AssetId } from '@kite-trail/core/lesson/ids';
import { describe, expect, it, vi } from 'vitest';
import { ImageStore } from './image-store';

const PDF = 'a'.repeat(64) as AssetId;

function fakeImage(width: number, height = width) {
  return { width, height, close: vi.fn() } as unknown as ImageBitmap & { close: ReturnType<typeof vi.fn> };
}

describe('pictures and PDF pages', () => {
  it('are loaded once, when they are first looked for', async () => {
    const load = vi.fn(async () => fakeImage(64));
    const store = new ImageStore(load);
    const arrived = vi.fn();
    store.onArrival = arrived;
    expect(store.find(PDF, null, 100)).toBeNull();
    expect(store.find(PDF, null, 900)).toBeNull();
    await store.settled();
    expect(store.find(PDF, null, 100)).toMatchObject({ widthPx: 64 });
    expect(load).toHaveBeenCalledOnce();
    expect(arrived).toHaveBeenCalledOnce();
  });

  it('are drawn again as fine as they are shown, and meanwhile shown as they are at hand', async () => {
    const store = new ImageStore(async (_asset, _page, widthPx) => fakeImage(widthPx));
    store.find(PDF, 3, 400);
    await store.settled();
    const coarse = store.find(PDF, 3, 400)!;
    expect(coarse.widthPx).toBeGreaterThanOrEqual(400);
    expect(store.find(PDF, 3, 2000)).toBe(coarse);
    await store.settled();
    expect(store.find(PDF, 3, 2000)!.widthPx).toBeGreaterThanOrEqual(2000);
    // A little more zoom asks for nothing new.
    const load = store.find(PDF, 3, 2010);
    expect(load!.widthPx).toBeGreaterThanOrEqual(2010);
  });

  it('never take more than a bounded amount of memory', async () => {
    const images: ReturnType<typeof fakeImage>[] = [];
    const store = new ImageStore(async () => {
      const image = fakeImage(4000, 2000);
      images.push(image);
      return image;
    });
    for (let page = 0; page < 30; page++) {
      store.find(PDF, page, 4000);
      await store.settled();
    }
    const open = images.filter((image) => image.close.mock.calls.length === 0);
    expect(open.length * 4000 * 2000 * 4).toBeLessThanOrEqual(256 * 2 ** 20);
    expect(store.find(PDF, 29, 4000)).not.toBeNull();
  });

  it('that cannot be had are left out, and not asked for at every frame', async () => {
    const load = vi.fn(async () => {
      throw new Error('gone');
    });
    const store = new ImageStore(load);
    for (let frame = 0; frame < 10; frame++) {
      expect(store.find(PDF, null, 100)).toBeNull();
      await store.settled();
    }
    expect(load).toHaveBeenCalledOnce();
    store.dispose();
  });

  it('that cannot be had are tried again by and by, and it is told how many are missing', async () => {
    vi.useFakeTimers();
    const load = vi.fn<() => Promise<ImageBitmap>>().mockRejectedValueOnce(new Error('gone'));
    load.mockResolvedValue(fakeImage(64));
    const store = new ImageStore(load);
    const missing: number[] = [];
    store.onMissing = (count) => missing.push(count);
    store.find(PDF, null, 100);
    await store.settled();
    await vi.advanceTimersByTimeAsync(5000);
    await store.settled();
    expect(missing).toEqual([1, 0]);
    expect(store.find(PDF, null, 100)).toMatchObject({ widthPx: 64 });
    vi.useRealTimers();
  });
});
