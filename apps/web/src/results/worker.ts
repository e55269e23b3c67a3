/** The worker of Results, one for all of it. */
import { WorkerClient } from '../worker/client.js';
import type { Remote } from './results.worker.js';

export const away = new WorkerClient<Remote>(() => new Worker(new URL('./results.worker.js', import.meta.url), { type: 'module' }));
