import { describe, expect, it } from 'vitest';
import { Gate } from './gate';
import { aborted } from './told';
import { withWorker } from './with-worker';

const turn = () => new Promise((resolve) => setTimeout(resolve));

describe('a gate', () => {
  it('holds work up until it is opened, also when it is held again before the work has looked', async () => {
    const gate = new Gate();
    await gate.passed();
    gate.hold(true);
    let isPast = false;
    void gate.passed().then(() => (isPast = true));
    await turn();
    gate.hold(false);
    gate.hold(true);
    await turn();
    expect([isPast, gate.isHeld]).toEqual([false, true]);
    gate.hold(false);
    await turn();
    expect(isPast).toBe(true);
  });

  it('tells whoever listens how it is now, and what changes, until they are gone', () => {
    const gate = new Gate();
    gate.hold(true);
    const heard: boolean[] = [];
    const end = gate.onHold((isHeld) => heard.push(isHeld));
    gate.hold(true);
    gate.hold(false);
    end();
    gate.hold(true);
    expect(heard).toEqual([true, false]);
  });
});

describe('work that is given up', () => {
  it('ends at once, with the reason', async () => {
    const abort = new AbortController();
    const waiting = aborted(abort.signal);
    abort.abort(new Error('enough'));
    await expect(waiting).rejects.toThrow('enough');
    await expect(aborted(abort.signal)).rejects.toThrow('enough');
  });
});

describe('a worker', () => {
  /** As much of a worker as comlink and its user need. */
  const made = () => {
    const worker = { terminated: false, onerror: null as ((event: { message: string }) => void) | null };
    const port = { postMessage: () => {}, addEventListener: () => {}, removeEventListener: () => {} };
    return Object.assign(worker, port, { terminate: () => (worker.terminated = true) });
  };
  const asWorker = (one: ReturnType<typeof made>) => one as unknown as Worker;

  it('is let go when it has done its work', async () => {
    const worker = made();
    expect(await withWorker(asWorker(worker), async () => 7)).toBe(7);
    expect(worker.terminated).toBe(true);
  });

  it('that fails to load is told, and keeps nobody waiting', async () => {
    const worker = made();
    const work = withWorker(asWorker(worker), () => new Promise(() => {}));
    worker.onerror!({ message: '' });
    await expect(work).rejects.toThrow('This cannot be done just now');
    expect(worker.terminated).toBe(true);
  });

  it('that is given up is let go', async () => {
    const worker = made();
    const abort = new AbortController();
    const work = withWorker(asWorker(worker), () => new Promise(() => {}), { signal: abort.signal });
    abort.abort(new DOMException('It was given up.', 'AbortError'));
    await expect(work).rejects.toThrow('It was given up.');
    expect(worker.terminated).toBe(true);
  });
});
