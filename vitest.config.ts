import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'core', root: 'core', include: ['src/**/*.test.ts'], testTimeout: 60_000 } },
      { test: { name: 'server', root: 'server', include: ['src/**/*.test.ts'], testTimeout: 60_000 } },
      { test: { name: 'demo', root: 'demo', include: ['src/**/*.test.ts'], testTimeout: 20_000 } },
      {
        test: {
          name: 'web',
          root: 'web',
          include: ['src/**/*.test.ts'],
          setupFiles: ['src/testing.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'e2e',
          root: 'e2e',
          include: ['src/**/*.test.ts'],
          testTimeout: 180_000,
          hookTimeout: 120_000,
          fileParallelism: false,
          // After all others and alone: what is timed here must not wait for them.
          sequence: { groupOrder: 1 },
          expect: { poll: { timeout: 15_000 } },
        },
      },
    ],
  },
});
