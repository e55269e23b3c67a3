/** @jest-environment ./src/testing/environment.mjs */
/** Pushes that are under way at once are followed one after another, each to its end. */
import '../testing/browser.js';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { OpenSetContext } from '../set/context.js';
import type { PushView } from './push.js';
import { usePushes, useRunning } from './usePushes.js';

/** The line of events of a push, spoken by the test. */
class Line {
  static readonly open = new Map<string, Line>();
  onmessage?: (e: { data: string }) => void;
  constructor(readonly url: string) {
    Line.open.set(url.split('/').at(-2) ?? '', this);
  }
  close(): void {
    Line.open.delete(this.url.split('/').at(-2) ?? '');
  }
}
const push = (id: string, state: PushView['state'], service = 'lms') => ({ id, state, service, report: {} }) as PushView;
/** What the server has. */
let there: PushView[] = [];
let asked = 0;
const before = { fetch: globalThis.fetch, events: globalThis.EventSource };
beforeEach(() => {
  asked = 0;
  globalThis.EventSource = Line as never;
  globalThis.fetch = () => {
    asked++;
    return Promise.resolve(new Response(JSON.stringify(there), { headers: { 'content-type': 'application/json' } }));
  };
});
afterEach(() => {
  cleanup();
  Line.open.clear();
  globalThis.fetch = before.fetch;
  globalThis.EventSource = before.events;
});

const session = { subscribe: () => () => undefined, get: () => still };
const still = {};
function follow() {
  const queries = new QueryClient({ defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY } } });
  const over: string[] = [];
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>
      <OpenSetContext value={{ view: { id: 's1' }, session, mayEdit: true } as never}>{children}</OpenSetContext>
    </QueryClientProvider>
  );
  const { result } = renderHook(
    () => {
      const pushes = usePushes();
      return { pushes: pushes.data, ...useRunning('lms', pushes.data, (p) => over.push(p.id)) };
    },
    { wrapper },
  );
  return { result, over };
}
/** The server tells of a push. */
const tell = (p: PushView) =>
  act(() => {
    there = there.map((x) => (x.id === p.id ? p : x));
    Line.open.get(p.id)?.onmessage?.({ data: JSON.stringify(p) });
  });

test('the oldest under way first, then the next, though the list is never asked for again', async () => {
  there = [push('third', 'waiting'), push('elsewhere', 'running', 'form'), push('second', 'waiting'), push('first', 'running'), push('old', 'done')];
  const { result, over } = follow();
  await waitFor(() => expect(Line.open.has('first')).toBe(true));
  tell(push('first', 'done'));
  await waitFor(() => expect([...Line.open.keys()]).toEqual(['second']));
  tell(push('second', 'running'));
  await waitFor(() => expect(result.current.running?.state).toBe('running'));
  tell(push('second', 'failed'));
  await waitFor(() => expect([...Line.open.keys()]).toEqual(['third']));
  tell(push('third', 'done'));
  await waitFor(() => expect(result.current.running).toBeUndefined());
  expect(over).toEqual(['first', 'second', 'third']);
  expect(result.current.pushes?.map((p) => p.state)).toEqual(['done', 'running', 'failed', 'done', 'done']);
  expect(asked).toBe(1);
});

test('one that was just begun is followed before the list knows it; begun before there is a list, the list is asked for', async () => {
  there = [];
  const { result, over } = follow();
  await waitFor(() => expect(result.current.pushes).toEqual([]));
  act(() => result.current.noted(push('new', 'waiting')));
  await waitFor(() => expect(Line.open.has('new')).toBe(true));
  tell(push('new', 'stopped'));
  expect(over).toEqual(['new']);
  cleanup();
  const early = follow();
  there = [push('early', 'running')];
  act(() => early.result.current.noted(push('early', 'waiting')));
  await waitFor(() => expect(Line.open.has('early')).toBe(true));
});
