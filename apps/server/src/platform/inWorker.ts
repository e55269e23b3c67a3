/** Heavy work in a thread of its own, with an end: the process goes on answering, whatever the input does. */
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { HOME } from './settings.js';

export interface WorkerLimits {
  seconds: number;
  megabytes: number;
}
/** The work took longer or more memory than it may. */
export class WorkStopped extends Error {}

/**
 * Runs a worker file with its input and gives what it posts.
 * @param worker the built file, as it lies in the server's `dist`
 * @throws WorkStopped where a limit is reached; Error with the worker's message where it fails
 */
export function inWorker<I, O>(worker: string, input: I, { seconds, megabytes }: WorkerLimits): Promise<O> {
  const file = path.join(HOME, 'apps/server/dist', worker);
  return new Promise<O>((resolve, reject) => {
    const thread = new Worker(file, { workerData: input, resourceLimits: { maxOldGenerationSizeMb: megabytes }, env: {}, stdout: true, stderr: true });
    const timer = setTimeout(() => end(() => reject(new WorkStopped(`stopped after ${seconds} s`))), seconds * 1000);
    const end = (settle: () => void): void => {
      clearTimeout(timer);
      settle();
      void thread.terminate();
    };
    thread.once('message', (output: O) => end(() => resolve(output)));
    thread.once('error', (e: NodeJS.ErrnoException) => end(() => reject(e.code === 'ERR_WORKER_OUT_OF_MEMORY' ? new WorkStopped('out of memory') : e)));
    thread.once('exit', (code) => end(() => reject(new Error(`the worker ended with ${code}`))));
  });
}
