/** Work that is shared: workers of a page, threads of a machine. What they are is told by the program; what there is to do is told by those who share it out. */

/** What can be left to another: it hangs on its input alone, and input and output can be sent to another thread. */
export interface Chore<I, O> {
  readonly id: string;
  run(input: I): O;
}

/** Those to whom it is left. */
export interface Helpers {
  /** Has it done as soon as one of them is free. @throws Error with the message of what the chore threw */
  do<I, O>(chore: Chore<I, O>, input: I): Promise<O>;
}

/** One of them, at one chore at a time. */
export interface Helper {
  do(id: string, input: unknown): Promise<unknown>;
  end(): void;
}

/**
 * Several who do chores in the order in which they are asked for. They are there from when they are needed; one that failed makes way for another.
 * @param count how many at most, 1 or more
 */
export function helpersOf(count: number, start: () => Helper): Helpers & { end(): void } {
  const free: Helper[] = [];
  const all = new Set<Helper>();
  const waiting: ((helper: Helper) => void)[] = [];
  const started = (): Helper => {
    const helper = start();
    all.add(helper);
    return helper;
  };
  const taken = (): Promise<Helper> | Helper => free.pop() ?? (all.size < count ? started() : new Promise((give) => waiting.push(give)));
  const give = (helper: Helper): void => {
    const next = waiting.shift();
    if (next) next(helper);
    else free.push(helper);
  };
  const dismiss = (helper: Helper): void => {
    helper.end();
    all.delete(helper);
    const next = waiting.shift();
    if (next) next(started());
  };
  return {
    async do<I, O>({ id }: Chore<I, O>, input: I): Promise<O> {
      const helper = await taken();
      try {
        const output = (await helper.do(id, input)) as O;
        give(helper);
        return output;
      } catch (e) {
        dismiss(helper);
        throw e;
      }
    },
    end() {
      for (const helper of all) helper.end();
      all.clear();
      free.length = 0;
    },
  };
}
