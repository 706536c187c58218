/** Entry point of the worker process. SIGTERM and SIGINT end it after the running step. */
import { closeStore } from '@/store';
import { runWorker } from './worker';

const controller = new AbortController();
for (const name of ['SIGTERM', 'SIGINT'] as const) process.on(name, () => controller.abort());
// A worker whose parent is gone would outlive `./glade up`.
process.on('disconnect', () => controller.abort());
await runWorker(controller.signal, (line) => console.log(line));
await closeStore();
