import type { Person } from './browser';

/** Waits until the recording's own time has come to so many seconds. */
export const untilRecorded = (teacher: Person, seconds: number) =>
  teacher.page.waitForFunction(
    (least) => {
      const [minutes, rest] = (document.querySelector('[role=timer]')?.textContent ?? '0:00').split('/')[0].split(':');
      return Number(minutes) * 60 + Number(rest) >= least;
    },
    {},
    seconds,
  );
