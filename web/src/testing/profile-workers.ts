import type { ProfileTask } from '../workers/sound/profile.worker';

type Report = object | null;

/** In a test, what the workers that listen to voices were asked, and how they answer. */
export const profileWorkers = { tasks: [] as ProfileTask[], answer: (_: ProfileTask): Report => null };

/** Stands in for such a worker. */
export class ProfileWorkerStandIn {
  onmessage: (event: { data: Report }) => void = () => {};

  postMessage(task: ProfileTask): void {
    profileWorkers.tasks.push(task);
    queueMicrotask(() => this.onmessage({ data: profileWorkers.answer(task) }));
  }

  terminate(): void {}
}
