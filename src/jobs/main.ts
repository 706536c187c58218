/** Entry point of the worker process. SIGTERM and SIGINT end it after the running step. */
import { fileURLToPath } from 'node:url';
import { log } from '@/log/log';
import { startThreads } from '@/media/threads';
import { closeStore, diskMemory, forgetOtherBuilds } from '@/store';
import { runWorker, type Say } from './worker';

/** Names the sources that this bundle was made of; set by the bundler. */
declare const GLADE_BUILD: string;

const controller = new AbortController();
for (const name of ['SIGTERM', 'SIGINT'] as const) process.on(name, () => controller.abort());
// A worker whose parent is gone would outlive `./glade up`.
process.on('disconnect', () => controller.abort());
const threads = startThreads(fileURLToPath(new URL('./thread.mjs', import.meta.url)));
await forgetOtherBuilds(GLADE_BUILD);
const say: Say = (line, about = {}) => log[about.err === undefined ? 'info' : 'error'](about, line);
await runWorker(controller.signal, say, { threads, memory: diskMemory(GLADE_BUILD) });
await threads?.close();
await closeStore();
