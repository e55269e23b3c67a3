/** @jest-environment ./src/testing/environment.mjs */
/** A class at work: each line as the server tells it, and what a teacher can do there. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import type { Item } from '@zakuska/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

const sent: { path: string; body: unknown }[] = [];
const send = async (path: string, { body }: { body?: unknown }): Promise<null> => {
  sent.push({ path: path.replace('/api/v1/deliveries/{delivery}', ''), body });
  return null;
};
jest.unstable_mockModule('../api/client.js', () => ({ api: { POST: send, PATCH: send }, call: (x: unknown) => x, wordsOf: (e: Error) => e.message }));
const { Live, doing } = await import('./Live.js');

const NOW = '2026-11-30T08:00:00.000Z';
const items = ['a', 'read', 'b'].map((id) => ({ id, kind: id === 'read' ? 'information' : 'essay', stem: id, points: 1 }) as Item);
const learner = (name: string, more: object = {}) => ({ id: name, name, startedAt: NOW, place: 0, lost: false, states: {}, ...more });

/** The line to the server, on which a test speaks. */
let line: { onmessage?: (e: { data: string }) => void; close: () => void } | undefined;
const before = globalThis.EventSource;
beforeEach(() => {
  sent.length = 0;
  globalThis.EventSource = class {
    constructor() {
      line = this as never;
    }
    close(): void {
      line = undefined;
    }
  } as never;
});
afterEach(() => {
  cleanup();
  globalThis.EventSource = before;
});
const tell = (attempts: object[], open = true, paused = false): void =>
  act(() => line?.onmessage?.({ data: JSON.stringify({ open, paused, released: false, now: NOW, attempts }) }));
const show = (mayEdit = true) => {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Live delivery="d" items={items} mayEdit={mayEdit} onChanged={() => undefined} />
    </QueryClientProvider>,
  );
  return userEvent.setup();
};
const row = (name: string) => within(screen.getByRole('row', { name: new RegExp(name) }));

test('where each is, how each answer would be marked, who has lost the line; it changes as the server tells', () => {
  show();
  tell([]);
  expect(screen.getByText('Nobody has begun yet. Who does stands here at once.')).not.toBeNull();
  tell([learner('Ada', { at: 'b', states: { a: 'wrong' } }), learner('Béla', { at: 'a', lost: true })]);
  expect(screen.getByRole('status').textContent).toBe('2 at work, 0 handed in, 1 without connection · open');
  // what is only to be read has no column
  expect(screen.getAllByRole('columnheader').map((h) => h.textContent)).toEqual(['Learner', '1', '3', 'Now', 'Time and device']);
  expect(
    row('Ada')
      .getAllByRole('cell')
      .slice(0, 2)
      .map((c) => c.textContent),
  ).toEqual(['·wrong', 'no answer yet, at work on it']);
  expect(row('Béla').getByText('no connection')).not.toBeNull();
  tell([learner('Ada', { submittedAt: NOW, points: 1, states: { a: 'wrong', b: 'right' } })], false);
  expect(screen.getByRole('status').textContent).toBe('0 at work, 1 handed in · closed');
  expect(row('Ada').getByText('handed in, 1 points')).not.toBeNull();
  expect(row('Ada').queryByRole('button')).toBeNull();
});

test('what somebody does, in words', () => {
  const now = Date.parse(NOW);
  const at = (minutes: number): string => new Date(now + minutes * 60_000).toISOString();
  expect(doing(learner('x', { at: 'b' }), items, now)).toBe('at item 3');
  expect(doing(learner('x', { place: 3 }), items, now)).toBe('at the end');
  // all on one page: at none of them
  expect(doing(learner('x'), items, now)).toBe('at work');
  expect(doing(learner('x', { at: 'a', due: at(0.5) }), items, now)).toBe('at item 1, 1 minute left');
  expect(doing(learner('x', { at: 'a', due: at(-1) }), items, now)).toBe('at item 1, time over');
  expect(doing(learner('x', { submittedAt: NOW, lost: true }), items, now)).toBe('handed in');
});

test('more time for one and for all, another device, closing', async () => {
  const user = show();
  tell([learner('Ada', { at: 'a', due: '2026-11-30T08:10:00.000Z' }), learner('Béla', { at: 'a' })]);
  await user.click(screen.getByRole('button', { name: '5 minutes more for all' }));
  await user.click(screen.getByRole('button', { name: '5 minutes more for Ada' }));
  await user.click(screen.getByRole('button', { name: 'Let Béla go on on another device' }));
  await user.click(screen.getByRole('button', { name: 'Close' }));
  expect(screen.queryByRole('button', { name: '5 minutes more for Béla' })).toBeNull();
  expect(sent).toEqual([
    { path: '/time', body: { minutes: 5 } },
    { path: '/time', body: { minutes: 5, attempt: 'Ada' } },
    { path: '/free', body: { attempt: 'Béla' } },
    { path: '', body: { open: false } },
  ]);
});

test('the time is stopped for all, and goes on; what is closed has none to stop', async () => {
  const user = show();
  tell([learner('Ada', { at: 'a' })]);
  await user.click(screen.getByRole('button', { name: 'Pause' }));
  tell([learner('Ada', { at: 'a' })], true, true);
  expect(screen.getByRole('status').textContent).toBe('1 at work, 0 handed in · paused');
  await user.click(screen.getByRole('button', { name: 'Go on' }));
  expect(sent).toEqual([
    { path: '', body: { paused: true } },
    { path: '', body: { paused: false } },
  ]);
  tell([learner('Ada', { at: 'a' })], false);
  expect(screen.queryByRole('button', { name: 'Pause' })).toBeNull();
});

test('who may only read sees the class and changes nothing; who leaves hangs up', () => {
  show(false);
  tell([learner('Ada', { at: 'a', due: '2026-11-30T08:10:00.000Z' })]);
  expect(screen.getByRole('rowheader', { name: 'Ada' })).not.toBeNull();
  expect(screen.queryByRole('button')).toBeNull();
  expect(line).toBeDefined();
  cleanup();
  expect(line).toBeUndefined();
});
