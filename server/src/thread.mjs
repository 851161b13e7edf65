import { workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

/** Begins a thread that is written in TypeScript: threads do not inherit what compiles the program that starts them. */
register();
const program = await import(workerData.program);
export default program.default;
