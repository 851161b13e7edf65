import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { vi } from 'vitest';

/** Gives a test a device on which nothing has been kept yet. */
export function freshDevice(): void {
  globalThis.indexedDB = new IDBFactory();
  vi.stubGlobal('navigator', {});
}
