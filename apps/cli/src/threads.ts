/** The helpers of a command: threads of the machine, one a core. */
import { once } from 'node:events';
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { type Helper, helpersOf } from '@zakuska/core';

function thread(): Helper {
  const worker = new Worker(new URL('./helper.js', import.meta.url));
  return {
    async do(id, input) {
      worker.postMessage({ id, input });
      // rejects with what ended the thread
      const [answer] = (await once(worker, 'message')) as [{ output?: unknown; error?: string }];
      if (answer.error !== undefined) throw new Error(answer.error);
      return answer.output;
    },
    end: () => void worker.terminate(),
  };
}

/** They are started by the first chore; `end` lets the process end. */
export const threads = (): ReturnType<typeof helpersOf> => helpersOf(availableParallelism(), thread);
