import { BROADEST_PT } from '@kite-trail/core/contract/pens';
import { describe, expect, it, vi } from 'vitest';
import { penName, usePens } from './pens';

const { keepPens } = vi.hoisted(() => ({ keepPens: vi.fn(async () => {}) }));
vi.mock('../../server/api', () => ({ api: { keepPens } }));

const colorFor = (pens: ReturnType<typeof usePens>, device: number) => {
  const tool = pens.toolOf(device);
  return tool.kind === 'write' ? tool.pen.color : tool.kind;
};

describe('the pen roll', () => {
  it('is kept for the teacher once, however much was changed of it in a moment', async () => {
    vi.useFakeTimers();
    const pens = usePens();
    for (const widthPt of [1, 2, 3]) pens.change({ widthPt });
    await vi.runAllTimersAsync();
    vi.useRealTimers();
    expect(keepPens).toHaveBeenCalledOnce();
    expect(keepPens).toHaveBeenCalledWith(expect.objectContaining({ roll: pens.roll }));
    expect(pens.heldPen.widthPt).toBe(3);
  });

  it('gives each of two pens the one it has touched, and others the one in hand', () => {
    const pens = usePens();
    pens.pick(0, 5);
    pens.pick(1, 6);
    expect([colorFor(pens, 5), colorFor(pens, 6)]).toEqual([pens.roll[0].color, pens.roll[1].color]);
    expect(colorFor(pens, 0)).toBe(pens.roll[1].color);
    // An eraser in hand is everybody's.
    pens.held = 'eraser';
    expect([colorFor(pens, 5), colorFor(pens, 0)]).toEqual(['erase', 'erase']);
  });

  it('gives all pens what was picked by a finger, a mouse or a key: what is shown as held is what writes', () => {
    const pens = usePens();
    pens.pick(1, 6);
    pens.pick(2);
    expect(colorFor(pens, 6)).toBe(pens.heldPen.color);
    pens.pick(1, 6);
    pens.pickSort('highlighter');
    expect(colorFor(pens, 6)).toBe(pens.heldPen.color);
  });

  it('never gives a pen what has gone from the roll, or moved in it', () => {
    const pens = usePens();
    pens.pick(1, 6);
    pens.remove();
    expect(colorFor(pens, 6)).toBe(pens.heldPen.color);
    pens.pick(0, 6);
    pens.reorder([...pens.roll].reverse());
    expect(colorFor(pens, 6)).toBe(pens.heldPen.color);
  });

  it('keeps the pen in hand when the order changes, and widths within what ink can be', () => {
    const pens = usePens();
    pens.pick(2);
    const inHand = pens.heldPen.color;
    pens.reorder([...pens.roll].reverse());
    expect(pens.heldPen.color).toBe(inHand);
    pens.change({ widthPt: 1e6 });
    expect(pens.heldPen.widthPt).toBe(BROADEST_PT);
    pens.change({ widthPt: -3 });
    expect(pens.heldPen.widthPt).toBeGreaterThan(0);
  });

  it('is never without a pen, nor the palette without a colour', () => {
    const pens = usePens();
    for (let n = 0; n < 20; n++) pens.remove();
    expect(pens.roll).toHaveLength(1);
    for (let n = 0; n < 30; n++) pens.takeFromPalette(pens.palette[0].color);
    expect(pens.palette).toHaveLength(1);
    expect(penName(pens.heldPen)).not.toBe('');
  });

  it('remembers colours beyond the palette, the newest first, each once', () => {
    const pens = usePens();
    for (const color of ['#111111', '#222222', '#111111']) pens.change({ color });
    expect(pens.recentColors.slice(0, 2)).toEqual(['#111111', '#222222']);
    pens.addToPalette('#111111');
    pens.change({ color: '#111111' });
    expect(pens.palette.filter(({ color }) => color === '#111111')).toHaveLength(1);
  });
});
