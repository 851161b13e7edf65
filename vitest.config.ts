import { defineConfig } from 'vitest/config';

const files = (...names: string[]) => names.map((name) => `src/${name}.test.ts`);
/** It is counted how much is missing of recordings: two can go on beside one another, but not three. */
const RECORDING = files('bad-luck', 'disasters', 'kept-elsewhere', 'no-voice', 'retakes', 'trim');
/** Sound and ink are timed here to the millisecond, or heard as they are played. */
const TIMED = files('from-pen-to-link', 'microphone', 'other-browsers');

/** Left alone, a machine of two cores would do them one by one. */
const maxWorkers = 2;

const onServer = {
  root: 'server',
  include: ['src/**/*.test.ts'],
  testTimeout: 60_000,
  hookTimeout: 60_000,
  // What is imported is imported once: no test puts anything in a module's place.
  isolate: false,
  maxWorkers,
};

const inBrowser = {
  root: 'e2e',
  include: ['src/**/*.test.ts'],
  setupFiles: ['src/support/no-complaints.ts'],
  globalSetup: ['src/support/demo-database.ts'],
  testTimeout: 180_000,
  hookTimeout: 300_000,
  expect: { poll: { timeout: 60_000 } },
};

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'core',
          root: 'core',
          include: ['src/**/*.test.ts'],
          testTimeout: 60_000,
          isolate: false,
          maxWorkers,
        },
      },
      { test: { name: 'server', ...onServer } },
      // The same tests once more, on the other database, but for what has nothing to do with databases, or is about the first.
      {
        test: {
          name: 'server-postgres',
          ...onServer,
          exclude: [
            'src/database/sqlite-client.test.ts',
            'src/films/films.test.ts',
            'src/http/proxy.test.ts',
            'src/lessons/painting.test.ts',
          ],
          globalSetup: ['src/database/postgres-cluster.ts'],
        },
      },
      { test: { name: 'demo', root: 'demo', include: ['src/**/*.test.ts'], testTimeout: 180_000, maxWorkers } },
      {
        test: {
          name: 'web',
          root: 'web',
          include: ['src/**/*.test.ts'],
          setupFiles: ['src/testing.ts'],
          testTimeout: 60_000,
          maxWorkers,
        },
      },
      // The interface after all that is tested without it: most of the time it waits, so three go side by side.
      {
        test: {
          name: 'e2e',
          ...inBrowser,
          exclude: [...RECORDING, ...TIMED],
          maxWorkers: 3,
          sequence: { groupOrder: 1 },
        },
      },
      { test: { name: 'e2e-recording', ...inBrowser, include: RECORDING, maxWorkers: 2, sequence: { groupOrder: 2 } } },
      {
        test: { name: 'e2e-timed', ...inBrowser, include: TIMED, fileParallelism: false, sequence: { groupOrder: 3 } },
      },
    ],
  },
});
