/** Follows something at the server while it changes: by its events, and by asking where there are none. */
interface Followed<T> {
  /** Address of its events. */
  events: string;
  /** What an event says. */
  read: (data: string) => T;
  /** Asks for it as it is now. */
  ask: () => Promise<T>;
  /** Whether more is to come. */
  isOpen: (now: T) => boolean;
}

/** Follows until it is over. Gives what ends it before. */
export function follow<T>({ events: address, read, ask, isOpen }: Followed<T>, told: (now: T) => void): () => void {
  let events: EventSource | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let ended = false;
  const end = (): void => {
    ended = true;
    events?.close();
    clearTimeout(timer);
  };
  const hear = (now: T): void => {
    if (ended) return;
    if (!isOpen(now)) end();
    told(now);
  };
  const listen = (): void => {
    if (ended) return;
    events = new EventSource(address);
    events.onmessage = (e: MessageEvent<string>) => hear(read(e.data));
    events.onerror = () => {
      // a browser tries again by itself where the line was cut, not where it was refused
      if (events?.readyState !== EventSource.CLOSED) return;
      void ask()
        .then(hear, () => undefined)
        .then(() => {
          if (!ended) timer = setTimeout(listen, 3000);
        });
    };
  };
  listen();
  return end;
}
