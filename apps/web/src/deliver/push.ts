/** Pushes and where they brought sets, as the server tells them. */
import type { FitNote, Rehearsal } from '@zakuska/core';
import { api, call, type Schemas } from '../api/client.js';
import { follow } from '../api/follow.js';

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

/** Follows a push until it is over. Gives what ends it before. */
export const followPush = (id: string, told: (p: PushView) => void): (() => void) =>
  follow<PushView>(
    {
      events: `/api/v1/pushes/${id}/events`,
      read: (data) => JSON.parse(data) as PushView,
      ask: () => asPush(call(api.GET('/api/v1/pushes/{push}', { params: { path: { push: id } } }))),
      isOpen,
    },
    told,
  );
