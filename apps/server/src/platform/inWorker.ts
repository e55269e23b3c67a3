/** Heavy work in a thread of its own, with an end: the process goes on answering, whatever the input does. */
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';

export interface WorkerLimits {
  seconds: number;
  megabytes: number;
}
/** The work took longer or more memory than it may. */
export class WorkStopped extends Error {}

/**
 * Runs a worker file with its input and gives what it posts.
 * @param worker address of the file; where the sources run without a build, the built one is taken
 * @throws WorkStopped where a limit is reached; Error with the worker's message where it fails
 */
export function inWorker<I, O>(worker: URL, input: I, { seconds, megabytes }: WorkerLimits): Promise<O> {
  const file = fileURLToPath(worker).replace(/([\\/])src([\\/](?:.*)\.js)$/, '$1dist$2');
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
