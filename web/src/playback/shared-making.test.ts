import { expect, it, vi } from 'vitest';
import { Gate } from '../workers/gate';
import type { Told } from '../workers/told';
import { turn } from '../testing/turn';
import { SharedMaking } from './shared-making';

const over = vi.fn();

/** Something that is made by hand. */
function begin() {
  let told!: Required<Told>;
  let finish!: (file: Blob) => void;
  let fail!: (why: Error) => void;
  const making = new SharedMaking((given) => {
    told = given;
    return new Promise((resolve, reject) => {
      [finish, fail] = [resolve, reject];
      given.signal.addEventListener('abort', () => reject(given.signal.reason as Error));
    });
  });
  over.mockReset();
  making.onOver(over);
  return { making, told, finish, fail };
}

it('tells all how far it is, also those who come later, and gives them the same', async () => {
  const { making, told, finish } = begin();
  const [first, later] = [vi.fn(), vi.fn()];
  const one = making.wantedBy({ onDone: first });
  told.onDone(0.25);
  const other = making.wantedBy({ onDone: later });
  told.onDone(0.5);
  const file = new Blob(['x']);
  finish(file);
  expect(await Promise.all([one, other])).toEqual([file, file]);
  expect(first.mock.calls).toEqual([[0], [0.25], [0.5]]);
  expect(later.mock.calls).toEqual([[0.25], [0.5]]);
  expect(over).toHaveBeenCalled();
});

it('waits while all who want it are held up, and for nobody else', () => {
  const { making, told } = begin();
  const [film, link] = [new Gate(), new Gate()];
  void making.wantedBy({ gate: film });
  film.hold(true);
  expect(told.gate.isHeld).toBe(true);
  // Whoever shares has no gate, and waits for no film that is paused.
  const leaves = new AbortController();
  const left = making.wantedBy({ signal: leaves.signal });
  expect(told.gate.isHeld).toBe(false);
  leaves.abort(new Error('gone'));
  return expect(left)
    .rejects.toThrow('gone')
    .then(() => {
      expect(told.gate.isHeld).toBe(true);
      void making.wantedBy({ gate: link });
      expect(told.gate.isHeld).toBe(false);
      link.hold(true);
      expect(told.gate.isHeld).toBe(true);
    });
});

it('tells all why it failed, and is given up by the last alone', async () => {
  const failing = begin();
  const both = [failing.making.wantedBy({}), failing.making.wantedBy({})];
  failing.fail(new Error('no room'));
  for (const one of both) await expect(one).rejects.toThrow('no room');

  const { making, told } = begin();
  const [first, last] = [new AbortController(), new AbortController()];
  const wanted = [first, last].map(({ signal }) => making.wantedBy({ signal }).catch(() => 'given up'));
  first.abort();
  await turn();
  expect([told.signal.aborted, over.mock.calls.length]).toEqual([false, 0]);
  last.abort();
  expect(await Promise.all(wanted)).toEqual(['given up', 'given up']);
  expect(told.signal.aborted).toBe(true);
  expect(over).toHaveBeenCalled();
});
