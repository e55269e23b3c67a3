/** The newest answer of something slow: while one question is being answered, only the newest waits. */
import type { Remote } from 'comlink';
import { useEffect, useState, useSyncExternalStore } from 'react';
import type { WorkerClient } from './client.js';

export interface Latest<R> {
  /** The newest answer there is; a newer question may be under way. */
  value: R | null;
  /** A question has been under way for a noticeable time. */
  busy: boolean;
  /** The newest question could not be answered, twice. The answer before stays. */
  failed: boolean;
}

/** ms after which a question under way is told as busy. */
const NOTICEABLE = 400;
const TRIES = 2;

/**
 * Asks one question at a time. One that fails is asked once more; then the failure is told, and the next question, or `again`, tries anew.
 * The last question asked is always answered, or told as failed.
 */
export class LatestCall<Q, R> {
  private wanted: { question: Q } | null = null;
  private last: { question: Q } | null = null;
  private running = false;
  private listeners = new Set<() => void>();
  private state: Latest<R> = { value: null, busy: false, failed: false };

  /** @param answer what is asked; `before` is the answer before, `afresh` says that the try before failed */
  constructor(private readonly answer: (question: Q, before: R | null, afresh: boolean) => Promise<R>) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly get = (): Latest<R> => this.state;

  ask(question: Q): void {
    this.wanted = this.last = { question };
    if (!this.running) void this.run();
  }
  /** Asks the newest question again. */
  readonly again = (): void => {
    if (this.last) this.ask(this.last.question);
  };

  private async run(): Promise<void> {
    this.running = true;
    const slow = setTimeout(() => this.update({ busy: true }), NOTICEABLE);
    try {
      while (this.wanted) {
        const { question } = this.wanted;
        this.wanted = null;
        await this.one(question);
      }
    } finally {
      clearTimeout(slow);
      this.running = false;
      this.update({ busy: false });
    }
  }

  private async one(question: Q): Promise<void> {
    for (let tried = 0; tried < TRIES; tried++) {
      try {
        this.update({ value: await this.answer(question, this.state.value, tried > 0), failed: false });
        return;
      } catch (e) {
        console.error(e);
        // a newer question may fare better than this one again
        if (this.wanted) return;
      }
    }
    this.update({ failed: true });
  }

  private update(change: Partial<Latest<R>>): void {
    const next = { ...this.state, ...change };
    if (next.value === this.state.value && next.busy === this.state.busy && next.failed === this.state.failed) return;
    this.state = next;
    for (const l of this.listeners) l();
  }
}

/**
 * A call of a worker for the newest answer. After a failure the worker is ended first, so that the second try has a new one.
 * @param ask what to ask it; `before` is the answer before, `worker` the same object as long as the worker is the same
 */
export const latestFrom = <T, Q, R>(
  client: WorkerClient<T>,
  ask: (remote: Remote<T>, question: Q, before: R | null, worker: object) => Promise<R>,
): LatestCall<Q, R> =>
  new LatestCall((question, before, afresh) => {
    if (afresh) client.end();
    return client.call((remote, worker) => ask(remote, question, before, worker)) as Promise<R>;
  });

/**
 * The newest answer to a question that changes.
 * @param question a new object is a new question
 * @param make the call of this component, made once
 */
export function useLatest<Q, R>(question: Q, make: () => LatestCall<Q, R>): Latest<R> & { again: () => void } {
  const [call] = useState(make);
  useEffect(() => call.ask(question), [call, question]);
  return { ...useSyncExternalStore(call.subscribe, call.get), again: call.again };
}
