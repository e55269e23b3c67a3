/** A worker of the page: made at the first call, ended when it has failed or is to stop, and then made anew. */
import { type Remote, wrap } from 'comlink';

/** What a call gives that was under way when its worker ended. */
export class WorkerEnded extends Error {
  override name = 'WorkerEnded';
}

interface Running<T> {
  worker: Worker;
  remote: Remote<T>;
  ended: Promise<never>;
  end: (why: WorkerEnded) => void;
}

export class WorkerClient<T> {
  private running: Running<T> | undefined;

  /** @param make starts the worker; what it exposes is called as `T` */
  constructor(private readonly make: () => Worker) {}

  /**
   * Calls the worker.
   * @param run what to ask; `worker` is the same object as long as the worker is the same, so that a caller knows what it has told it
   * @returns what the worker gives
   * @throws what the worker throws, and WorkerEnded where it died, sent what cannot be read, or was ended meanwhile
   */
  call<R>(run: (remote: Remote<T>, worker: object) => R): Promise<Awaited<R>> {
    const running = (this.running ??= this.start());
    return Promise.race([Promise.resolve(run(running.remote, running.worker)), running.ended]);
  }

  /** Ends the worker with all it holds; the next call starts another. */
  end(why = 'The worker was ended.'): void {
    const running = this.running;
    this.running = undefined;
    running?.worker.terminate();
    running?.end(new WorkerEnded(why));
  }

  private start(): Running<T> {
    const worker = this.make();
    let end: Running<T>['end'] = () => {};
    const ended = new Promise<never>((_, reject) => {
      end = reject;
    });
    // whoever waits hears of it; where nobody waits, it is no error of the page
    ended.catch(() => {});
    const fail = (why: string) => (): void => {
      if (this.running?.worker === worker) this.end(why);
    };
    worker.addEventListener('error', fail('The worker could not go on.'));
    worker.addEventListener('messageerror', fail('The worker sent what cannot be read.'));
    return { worker, remote: wrap<T>(worker), ended, end };
  }
}
