import { beforeEach, describe, expect, it, vi } from 'vitest';
import { FingerInput, type FingerUse } from './finger-input';

let use: FingerUse;
let page: EventTarget;
const began = vi.fn();
const moved = vi.fn();
const tapped = vi.fn();
/** What the page's other listeners, such as the pen's, get to hear. */
const heard = vi.fn();

beforeEach(() => {
  vi.resetAllMocks();
  page = new EventTarget();
  new FingerInput(page, { use: () => use, isElsewhere: () => false, began, moved, tapped });
  for (const type of ['pointerdown', 'pointermove', 'pointerup']) page.addEventListener(type, () => heard(type));
});

function touch(
  type: string,
  pointerId: number,
  clientX: number,
  clientY: number,
  timeStamp = 0,
  pointerType = 'touch',
) {
  const event = new Event(type);
  for (const [name, value] of Object.entries({ pointerId, clientX, clientY, timeStamp, pointerType })) {
    Object.defineProperty(event, name, { value });
  }
  page.dispatchEvent(event);
}

describe('fingers on the page', () => {
  it('write where nobody writes with a pen, two of them far apart in time, too', () => {
    use = 'write';
    touch('pointerdown', 1, 10, 10);
    touch('pointermove', 1, 60, 10, 100);
    touch('pointerdown', 2, 300, 300, 120);
    touch('pointermove', 2, 320, 300, 140);
    expect(heard).toHaveBeenCalledTimes(4);
    expect(moved).not.toHaveBeenCalled();
  });

  it('enlarge the page when two come down together, and write nothing', () => {
    use = 'write';
    touch('pointerdown', 1, 100, 100);
    touch('pointerdown', 2, 200, 100, 60);
    expect(began).toHaveBeenCalledOnce();
    touch('pointermove', 2, 300, 100, 80);
    expect(moved).toHaveBeenCalledExactlyOnceWith({
      factor: 2,
      from: { xPx: 150, yPx: 100 },
      to: { xPx: 200, yPx: 100 },
    });
    touch('pointerup', 1, 100, 100);
    touch('pointerup', 2, 300, 100);
    expect(heard).toHaveBeenCalledTimes(1);
  });

  it('move the page, a single one too, where a pen does the writing', () => {
    use = 'move';
    touch('pointerdown', 1, 100, 100);
    touch('pointermove', 1, 130, 90);
    expect(moved).toHaveBeenCalledExactlyOnceWith({
      factor: 1,
      from: { xPx: 100, yPx: 100 },
      to: { xPx: 130, yPx: 90 },
    });
    expect(heard).not.toHaveBeenCalled();
  });

  it('do nothing while the pen writes, as a palm does', () => {
    use = 'nothing';
    touch('pointerdown', 1, 100, 100);
    touch('pointermove', 1, 180, 160);
    touch('pointerup', 1, 180, 160);
    touch('pointerdown', 9, 50, 50, 0, 'pen');
    expect(moved).not.toHaveBeenCalled();
    expect(heard.mock.calls).toEqual([['pointerdown']]);
  });

  it('call nothing beside a pen that writes', () => {
    use = 'nothing';
    touch('pointerdown', 1, 100, 100);
    touch('pointerdown', 2, 140, 100, 40);
    touch('pointerup', 1, 100, 100, 120);
    touch('pointerup', 2, 140, 100, 130);
    expect(tapped).not.toHaveBeenCalled();
  });

  it('call the tools where two touch together and go at once, not where they moved or rested', () => {
    use = 'write';
    touch('pointerdown', 1, 100, 100);
    touch('pointerdown', 2, 140, 100, 40);
    touch('pointerup', 1, 100, 100, 120);
    expect(tapped).not.toHaveBeenCalled();
    touch('pointerup', 2, 140, 100, 130);
    expect(tapped).toHaveBeenCalledExactlyOnceWith({ xPx: 120, yPx: 100 });
    touch('pointerdown', 1, 100, 100, 1000);
    touch('pointerdown', 2, 140, 100, 1040);
    touch('pointermove', 2, 190, 100, 1060);
    touch('pointerup', 2, 190, 100, 1090);
    touch('pointerup', 1, 100, 100, 1100);
    touch('pointerdown', 1, 100, 100, 2000);
    touch('pointerdown', 2, 140, 100, 2040);
    touch('pointerup', 2, 140, 100, 2900);
    touch('pointerup', 1, 100, 100, 2910);
    expect(tapped).toHaveBeenCalledOnce();
  });
});
