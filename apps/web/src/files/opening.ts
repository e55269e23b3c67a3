/** Files that a person opens, read one after the other in a worker that can be stopped. */
import { proxy, transfer } from 'comlink';
import { WorkerClient } from '../worker/client.js';
import type { OpenedView, Opener } from './open.worker.js';
import { say } from '../words/say.js';
import { fixed } from '../ui/figures.js';

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

const megabytes = (n: number): string => say('{n} MB', { n: fixed(n / 1e6, 1) });

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
        error: say('This file has {megabytes}; files of up to {megabytes2} are opened. Split it, or take large pictures out.', {
          megabytes: megabytes(o.file.size),
          megabytes2: megabytes(limit),
        }),
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
          proxy((done: number, all: number) => tell(o.id, { progress: say('page {done} of {all}', { done, all }) })),
        ),
      );
      if (stopped()) return;
      tell(o.id, 'error' in read ? { state: 'failed', error: read.error } : { state: 'read', opened: read });
    } catch {
      if (!stopped()) tell(o.id, { state: 'failed', error: say('This file could not be read. Open it in the program that it comes from and save it again.') });
    }
  }
}
