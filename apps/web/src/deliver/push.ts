/** Pushes and where they brought sets, as the server tells them. */
import type { FitNote, Rehearsal } from '@zakuska/core';
import { api, call, type Schemas } from '../api/client.js';

export type Service = Schemas['ServiceView'];
export type Placement = Schemas['PlacementView'];
export interface PushedItem {
  key: string;
  item: string;
  name: string;
  status: 'waiting' | 'arrived' | 'changed' | 'same' | 'taken out' | 'refused';
  message?: string;
}
interface Receipt {
  title?: string;
  link?: string;
  links?: Record<string, string>;
  items?: PushedItem[];
  adapted?: FitNote[];
  problem?: string;
  rehearsal?: Rehearsal;
  unrehearsed?: string;
}
export type PushView = Omit<Schemas['PushView'], 'report'> & { report: Receipt };

/** A push as it comes over the line: its receipt is described here. */
export const asPush = (answer: Promise<unknown>): Promise<PushView> => answer as Promise<PushView>;
export const isOpen = (p: PushView): boolean => p.state === 'waiting' || p.state === 'running';

/** Follows a push until it is over: by the server's events, and by asking where there are none. Gives what ends it. */
export function follow(id: string, told: (p: PushView) => void): () => void {
  let events: EventSource | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let ended = false;
  const hear = (p: PushView): void => {
    if (ended) return;
    if (!isOpen(p)) end();
    told(p);
  };
  const end = (): void => {
    ended = true;
    events?.close();
    clearTimeout(timer);
  };
  const listen = (): void => {
    if (ended) return;
    events = new EventSource(`/api/v1/pushes/${id}/events`);
    events.onmessage = (e: MessageEvent<string>) => hear(JSON.parse(e.data) as PushView);
    events.onerror = () => {
      // a browser tries again by itself where the line was cut, not where it was refused
      if (events?.readyState !== EventSource.CLOSED) return;
      void asPush(call(api.GET('/api/v1/pushes/{push}', { params: { path: { push: id } } })))
        .then(hear, () => undefined)
        .then(() => {
          if (!ended) timer = setTimeout(listen, 3000);
        });
    };
  };
  listen();
  return end;
}
