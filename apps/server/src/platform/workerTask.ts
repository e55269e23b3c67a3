/** The other end of `inWorker`: what a worker file does. */
import { parentPort, workerData } from 'node:worker_threads';

/** What a thread says once its code is loaded: from then on its time counts. */
export const BEGUN = 'begun';

/** Does the work of this thread and hands over what comes of it. What the file imports is loaded by then. */
export async function workerTask<I>(work: (input: I) => unknown): Promise<void> {
  parentPort?.postMessage(BEGUN);
  parentPort?.postMessage(await work(workerData as I));
}
