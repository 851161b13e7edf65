import { describe, expect, it } from 'vitest';
import { Allowance } from './allowance';

describe('an allowance', () => {
  it('lets pass what is near, and holds what is far until the other has come closer', async () => {
    const allowance = new Allowance();
    await allowance.reach(59);
    let passed = false;
    const waiting = allowance.reach(100).then(() => (passed = true));
    allowance.moveTo(30);
    await Promise.resolve();
    expect(passed).toBe(false);
    allowance.moveTo(40);
    await waiting;
    expect(passed).toBe(true);
    allowance.moveTo(Infinity);
    await allowance.reach(1e9);
  });
});
