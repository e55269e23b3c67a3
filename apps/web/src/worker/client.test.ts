/** A worker that dies is told to those who wait, and the next call has a new one. */
import { expose } from 'comlink';
import { WorkerClient, WorkerEnded } from './client.js';

/** A worker as the page sees it, over a channel of its own in this process. */
class Channel extends EventTarget {
  readonly here: MessagePort;
  private readonly there: MessagePort;
  constructor(exposed: object) {
    super();
    const { port1, port2 } = new MessageChannel();
    this.here = port1;
    this.there = port2;
    expose(exposed, port2);
    port1.addEventListener('message', (e) => this.dispatchEvent(new MessageEvent('message', { data: e.data })));
    port1.start();
    opened.push(this);
  }
  postMessage(message: unknown, transfer: Transferable[] = []): void {
    this.here.postMessage(message, transfer);
  }
  terminate(): void {
    this.here.close();
    this.there.close();
  }
}
let opened: Channel[] = [];
afterEach(() => {
  for (const c of opened) c.terminate();
  opened = [];
});

const worker = {
  count: 0,
  next(): number {
    return ++this.count;
  },
  never: (): Promise<void> => new Promise(() => {}),
  fail: (): void => {
    throw new Error('planted');
  },
};
type Exposed = typeof worker;
const client = (): WorkerClient<Exposed> => new WorkerClient<Exposed>(() => new Channel({ ...worker }) as unknown as Worker);

test('one worker for all calls, and it keeps what it knows', async () => {
  const c = client();
  const seen = new Set<object>();
  const next = (): Promise<number> =>
    c.call((remote, w) => {
      seen.add(w);
      return remote.next();
    });
  expect([await next(), await next()]).toEqual([1, 2]);
  expect(opened).toHaveLength(1);
  expect(seen.size).toBe(1);
});

test('what it throws is thrown here, and it goes on', async () => {
  const c = client();
  await expect(c.call((r) => r.fail())).rejects.toThrow('planted');
  expect(await c.call((r) => r.next())).toBe(1);
  expect(opened).toHaveLength(1);
});

test.each(['error', 'messageerror'])('after %s those who wait hear of it, and the next call has a new worker', async (event) => {
  const c = client();
  const waiting = c.call((r) => r.never());
  opened[0]?.dispatchEvent(new Event(event));
  await expect(waiting).rejects.toBeInstanceOf(WorkerEnded);
  expect(await c.call((r) => r.next())).toBe(1);
  expect(opened).toHaveLength(2);
  // the old one has nothing more to say
  opened[0]?.dispatchEvent(new Event(event));
  expect(await c.call((r) => r.next())).toBe(2);
});

test('ended while it works', async () => {
  const c = client();
  const waiting = c.call((r) => r.never());
  c.end();
  await expect(waiting).rejects.toBeInstanceOf(WorkerEnded);
  c.end();
  expect(await c.call((r) => r.next())).toBe(1);
});
