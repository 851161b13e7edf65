import { expect, it, vi } from 'vitest';
import { idle } from './idle';

it('comes when the browser is idle, and also where the browser does not tell', async () => {
  vi.stubGlobal('requestIdleCallback', (callback: () => void) => callback());
  await expect(idle()).resolves.toBeUndefined();
  vi.unstubAllGlobals();
  expect('requestIdleCallback' in globalThis).toBe(false);
  await expect(idle()).resolves.toBeUndefined();
});
