/** The helpers of a worker that has a large file to make: workers, one a core; it waits meanwhile. */
import { helpersOf } from '@zakuska/core';
import { WorkerClient } from './client.js';
import type { HelpingWorker } from './helper.worker.js';

export const helpers = helpersOf(navigator.hardwareConcurrency || 2, () => {
  const client = new WorkerClient<HelpingWorker>(() => new Worker(new URL('./helper.worker.js', import.meta.url), { type: 'module' }));
  return { do: (id, input) => client.call((worker) => worker.do(id, input)), end: () => client.end() };
});
