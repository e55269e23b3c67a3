/** Files that a person opens, read one after the other in a worker that can be stopped. */
import { proxy, transfer } from 'comlink';
import { WorkerClient } from '../worker/client.js';
import type { OpenedView, Opener } from './open.worker.js';

export interface Opening {
  id: string;
  file: File;
  state: 'waiting' | 'reading' | 'read' | 'failed' | 'stopped';
  opened?: OpenedView;
  error?: string;
  /** How far the reading is. */
  progress?: string;
}

/** The worker that reads files. Ending it ends whatever it is reading, and every table that is open in it. */
export const opener = new WorkerClient<Opener>(() => new Worker(new URL('./open.worker.js', import.meta.url), { type: 'module' }));

const megabytes = (n: number): string => `${(n / 1e6).toFixed(1)} MB`;

/**
 * Reads files in order and tells each change. One that cannot be read does not stop the others.
 * @param limit bytes; a larger file is refused before it is read
 */
export async function readFiles(
  files: readonly Opening[],
  limit: number,
  tell: (id: string, change: Partial<Opening>) => void,
  stopped: () => boolean,
): Promise<void> {
  for (const o of files) {
    if (stopped()) return;
    if (o.file.size > limit) {
      tell(o.id, {
        state: 'failed',
        error: `This file has ${megabytes(o.file.size)}; files of up to ${megabytes(limit)} are opened. Split it, or take large pictures out.`,
      });
      continue;
    }
    tell(o.id, { state: 'reading' });
    try {
      const bytes = new Uint8Array(await o.file.arrayBuffer());
      const read = await opener.call((remote) =>
        remote.open(
          o.id,
          transfer(bytes, [bytes.buffer]),
          o.file.name,
          proxy((done: number, all: number) => tell(o.id, { progress: `page ${done} of ${all}` })),
        ),
      );
      if (stopped()) return;
      tell(o.id, 'error' in read ? { state: 'failed', error: read.error } : { state: 'read', opened: read });
    } catch {
      if (!stopped()) tell(o.id, { state: 'failed', error: 'This file could not be read. Open it in the program that it comes from and save it again.' });
    }
  }
}
