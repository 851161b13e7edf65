import type { Pen } from '@kite-trail/core/lesson/piece';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { PenInput, type PenDevice, type Tool } from './pen-input';

const NIGHT: Pen = { kind: 'pen', color: '#1f2a44', widthPt: 2 };
const RED: Pen = { kind: 'pen', color: '#c23b1e', widthPt: 2 };

let page: EventTarget & { setPointerCapture?: () => void };
let input: PenInput;
let tool: (device: PenDevice) => Tool;
let palmErases: boolean;
const written = vi.fn();
const erase = vi.fn();
const eraseEnded = vi.fn();

beforeEach(() => {
  vi.resetAllMocks();
  page = new EventTarget();
  page.setPointerCapture = () => {};
  tool = () => ({ kind: 'write', pen: NIGHT });
  palmErases = false;
  input = new PenInput(page as unknown as HTMLElement, {
    tool: (device) => tool(device),
    palmErases: () => palmErases,
    hardness: () => 0.5,
    toPage: (xPt, yPt) => ({ xPt, yPt }),
    lead: () => null,
    wetChanged: () => {},
    penTouched: () => {},
    written,
    erase,
    eraseEnded,
  });
});

let nowMs = 0;
function send(type: string, more: Partial<PointerEvent> & { persistentDeviceId?: number }) {
  const event = new Event(type);
  const usual = {
    pointerId: 1,
    pointerType: 'touch',
    isPrimary: true,
    button: 0,
    buttons: 1,
    clientX: 0,
    clientY: 0,
    width: 20,
    height: 20,
    pressure: 0.5,
    tiltX: 0,
    tiltY: 0,
    timeStamp: (nowMs += 8),
  };
  for (const [name, value] of Object.entries({ ...usual, ...more })) Object.defineProperty(event, name, { value });
  page.dispatchEvent(event);
}
const pensWritten = () => written.mock.calls.map(([{ pen }]) => (pen as Pen).color);

describe('a pen', () => {
  it('is kept with how it leans, point by point, and anything else without', () => {
    const pen = { pointerType: 'pen' };
    send('pointerdown', { ...pen, tiltX: 20, tiltY: -30 });
    send('pointermove', { ...pen, clientX: 9, tiltX: 22, tiltY: -30 });
    send('pointerup', { ...pen, clientX: 12 });
    send('pointerdown', {});
    send('pointerup', { clientX: 30 });
    const leans = written.mock.calls.map(([, { tilt }]) => tilt && [[...tilt.xDeg], [...tilt.yDeg]]);
    // Where a pen is lifted it leans as it did last.
    expect(leans).toEqual([
      [
        [20, 22, 22],
        [-30, -30, -30],
      ],
      null,
    ]);
  });
});

describe('a palm laid on the page', () => {
  const palm = { width: 90, height: 70 };

  it('writes as any finger where it is not told to rub', () => {
    send('pointerdown', palm);
    send('pointerup', { ...palm, clientX: 30 });
    expect(written).toHaveBeenCalledOnce();
    expect(erase).not.toHaveBeenCalled();
  });

  it('rubs out under it, as broad as it is, and fingers go on writing', () => {
    palmErases = true;
    send('pointerdown', palm);
    send('pointermove', { ...palm, clientX: 40 });
    send('pointerup', palm);
    expect(erase.mock.calls.map(([from, to, , palmPx]) => [from.xPt, to.xPt, palmPx])).toEqual([
      [0, 0, 90],
      [0, 40, 90],
    ]);
    expect(eraseEnded).toHaveBeenCalledOnce();
    send('pointerdown', { pointerId: 2 });
    send('pointerup', { pointerId: 2, clientX: 30 });
    expect(written).toHaveBeenCalledOnce();
  });

  it('that comes down with its edge first leaves no ink of it', () => {
    palmErases = true;
    send('pointerdown', { width: 22 });
    send('pointermove', { ...palm, clientX: 5 });
    send('pointerup', { ...palm, clientX: 9 });
    expect(written).not.toHaveBeenCalled();
    expect(erase).toHaveBeenCalled();
    expect(input.wet).toEqual([]);
  });

  it('that is lifted bit by bit goes on rubbing as a palm, never as the eraser in hand, which may take whole strokes', () => {
    palmErases = true;
    send('pointerdown', palm);
    send('pointermove', { width: 18, height: 12, clientX: 40 });
    send('pointerup', { width: 1, height: 1 });
    expect(erase.mock.calls.map(([, , , palmPx]) => palmPx)).toEqual([90, 18]);
  });

  it('takes nothing any more once a pen comes down beside it', () => {
    palmErases = true;
    send('pointerdown', palm);
    send('pointerdown', { pointerId: 7, pointerType: 'pen' });
    send('pointermove', { ...palm, clientX: 40 });
    expect(erase).toHaveBeenCalledOnce();
  });

  it('is none where a finger that has been writing is only pressed flat: its stroke stays, whole', () => {
    palmErases = true;
    send('pointerdown', {});
    for (let n = 1; n <= 40; n++) send('pointermove', { clientX: n * 5 });
    send('pointermove', { ...palm, clientX: 205 });
    send('pointerup', { clientX: 210 });
    expect(erase).not.toHaveBeenCalled();
    expect(written).toHaveBeenCalledOnce();
    expect(written.mock.lastCall![1].xPt.at(-1)).toBeCloseTo(210);
  });

  it('only rests beside a pen that writes', () => {
    palmErases = true;
    send('pointerdown', { pointerId: 7, pointerType: 'pen' });
    send('pointerdown', palm);
    send('pointerup', palm);
    send('pointerup', { pointerId: 7, pointerType: 'pen', clientX: 20 });
    expect(erase).not.toHaveBeenCalled();
  });
});

describe('two pens that the screen tells apart', () => {
  it('write each in its own colour, also at once', () => {
    tool = (device) => ({ kind: 'write', pen: device === 2 ? RED : NIGHT });
    const [one, other] = [
      { pointerId: 11, pointerType: 'pen', persistentDeviceId: 1 },
      { pointerId: 12, pointerType: 'pen', persistentDeviceId: 2 },
    ];
    send('pointerdown', one);
    send('pointerdown', other);
    send('pointermove', { ...one, clientX: 10 });
    send('pointermove', { ...other, clientX: 50 });
    send('pointerup', { ...one, clientX: 12 });
    send('pointerup', { ...other, clientX: 52 });
    expect(pensWritten()).toEqual([NIGHT.color, RED.color]);
  });
});
