/** A thread that does chores of others, one after the other. */
import { parentPort } from 'node:worker_threads';
import { doChore } from '@zakuska/core/chores';

parentPort?.on('message', ({ id, input }: { id: string; input: unknown }) => {
  try {
    parentPort?.postMessage({ output: doChore(id, input) });
  } catch (e) {
    parentPort?.postMessage({ error: e instanceof Error ? e.message : String(e) });
  }
});
