/** Heavy work in a thread of its own, with an end: the process goes on answering, whatever the input does. */
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { HOME } from './settings.js';
import { BEGUN } from './workerTask.js';

export interface WorkerLimits {
  /** From when the code of the thread is loaded. */
  seconds: number;
  megabytes: number;
}
/** Seconds in which a thread loads its code: one or two, and many on a busy machine, whatever the input. */
const LOADING = 60;
/** The work took longer or more memory than it may. */
export class WorkStopped extends Error {}

/**
 * Runs a worker file (`workerTask`) with its input and gives what comes of it.
 * @param worker the built file, as it lies in the server's `dist`
 * @throws WorkStopped where a limit is reached; Error with the worker's message where it fails
 */
export function inWorker<I, O>(worker: string, input: I, { seconds, megabytes }: WorkerLimits): Promise<O> {
  const file = path.join(HOME, 'apps/server/dist', worker);
  return new Promise<O>((resolve, reject) => {
    const thread = new Worker(file, { workerData: input, resourceLimits: { maxOldGenerationSizeMb: megabytes }, env: {}, stdout: true, stderr: true });
    const within = (s: number): NodeJS.Timeout => setTimeout(() => end(() => reject(new WorkStopped(`stopped after ${s} s`))), s * 1000);
    let timer = within(LOADING);
    const end = (settle: () => void): void => {
      clearTimeout(timer);
      settle();
      void thread.terminate();
    };
    thread.on('message', (said: O | typeof BEGUN) => {
      if (said !== BEGUN) return end(() => resolve(said as O));
      clearTimeout(timer);
      timer = within(seconds);
    });
    thread.once('error', (e: NodeJS.ErrnoException) => end(() => reject(e.code === 'ERR_WORKER_OUT_OF_MEMORY' ? new WorkStopped('out of memory') : e)));
    thread.once('exit', (code) => end(() => reject(new Error(`the worker ended with ${code}`))));
  });
}
