/** @jest-environment ./src/testing/environment.mjs */
/** The bank's address is its view; filters with counts; chosen items on their way into a set. */
import '../testing/browser.js';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { Item } from '@zakuska/core';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import type { Schemas } from '../api/client.js';
import { Filters } from './Filters.js';
import { askedIn, type BankAsked, narrows, paramsOf } from './query.js';
import { TakeDialog } from './TakeDialog.js';

afterEach(cleanup);

const nothing = askedIn(new URLSearchParams());

test('what is asked goes into the address and back', () => {
  const asked: BankAsked = { ...nothing, q: 'rye & oat', kind: ['numeric', 'cloze'], tag: ['week 1'], sort: 'points' };
  expect(askedIn(new URLSearchParams(paramsOf(asked).toString()))).toEqual(asked);
  expect(paramsOf(nothing).toString()).toBe('');
  expect(narrows(nothing)).toBe(false);
  expect(narrows(asked)).toBe(true);
  expect(narrows({ ...nothing, sort: 'points' })).toBe(false);
});

test('filters: counts beside the values, chosen ones stay in sight, more on demand, words when typing rests', async () => {
  const counts: Schemas['BankCounts'] = {
    kind: [
      { value: 'true-false', count: 4 },
      { value: 'numeric', count: 1 },
    ],
    outcome: Array.from({ length: 12 }, (_, i) => ({ value: `Outcome ${i}`, count: 20 - i })),
    tag: [],
    folder: [
      { value: 'f1', name: 'Bread / Week one', count: 4 },
      { value: 'none', count: 2 },
    ],
    level: [{ value: 'apply', count: 3 }],
    difficulty: [
      { value: 'hard', count: 1 },
      { value: 'unknown', count: 3 },
    ],
    points: [{ value: '1', count: 2 }],
    use: [{ value: 'never', count: 5 }],
    finding: [{ value: 'key-longest', name: 'The key stands out', count: 1 }],
    author: [{ value: 'a1', name: 'M. Okafor', count: 6 }],
    set: [{ value: 's1', name: 'Stocks', count: 3 }],
    state: [{ value: 'left-out', count: 1 }],
  };
  let now = nothing;
  function Held() {
    const [asked, setAsked] = useState<BankAsked>({ ...nothing, tag: ['gone'] });
    now = asked;
    return <Filters asked={asked} counts={counts} onAsked={setAsked} />;
  }
  render(<Held />);
  expect(screen.getByRole('checkbox', { name: 'True or false 4' })).toBeTruthy();
  for (const name of ['No folder 2', 'Bread / Week one 4', 'hard 1', 'not known 3', '1 point 2', 'not used yet 5', 'M. Okafor 6'])
    expect(screen.getByRole('checkbox', { name })).toBeTruthy();
  expect(screen.getByRole('checkbox', { name: 'Stocks 3' })).toBeTruthy();
  expect(screen.getByRole('checkbox', { name: 'left out 1' })).toBeTruthy();
  expect((screen.getByRole('checkbox', { name: 'gone 0' }) as HTMLInputElement).checked).toBe(true);
  expect(screen.queryByRole('checkbox', { name: 'Outcome 11 9' })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: '4 more' }));
  await userEvent.click(screen.getByRole('checkbox', { name: 'Outcome 11 9' }));
  await userEvent.click(screen.getByRole('checkbox', { name: 'Number 1' }));
  expect(now).toMatchObject({ outcome: ['Outcome 11'], kind: ['numeric'], tag: ['gone'] });
  await userEvent.click(screen.getByRole('checkbox', { name: 'Number 1' }));
  expect(now.kind).toEqual([]);
  await userEvent.type(screen.getByLabelText('Find'), 'rye{Enter}');
  expect(now.q).toBe('rye');
  await userEvent.click(screen.getByRole('button', { name: 'Show everything' }));
  expect(narrows(now)).toBe(false);
});

const row = (id: string, language?: string): Schemas['BankItem'] =>
  ({
    set: 'from',
    setTitle: 'From',
    path: [],
    state: 'open',
    changedAt: '2026-11-28T00:00:00Z',
    use: { answers: 0, sets: 1 },
    ...(language && { language }),
    item: { id, kind: 'true-false', stem: id, points: 1, answer: true, section: 's', label: '7' } as Item,
  }) as Schemas['BankItem'];

test('items go as copies behind what a set has; what is in another language says so; a refusal is shown', async () => {
  const sent: { url: string; body: unknown }[] = [];
  let refuse = false;
  const answer = (body: unknown, status = 200): Response => new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
  const before = globalThis.fetch;
  globalThis.fetch = async (input) => {
    const request = input as Request;
    const url = new URL(request.url).pathname;
    if (request.method === 'POST') {
      sent.push({ url, body: await request.json() });
      if (refuse) return answer({ detail: 'You are reader here.', code: 'role' }, 403);
      return answer({ version: 5 });
    }
    if (url.endsWith('/sets')) return answer([{ id: 'there', title: 'Stocks', path: [], items: 1, role: 'owner' }]);
    return answer({ version: 4, document: { set: { title: 'Stocks', language: 'en', items: [{ id: 'x' }] }, reviews: {} } });
  };
  try {
    const taken: string[] = [];
    const client = new QueryClient({ defaultOptions: { queries: { retry: false }, mutations: { retry: false } } });
    render(
      <QueryClientProvider client={client}>
        <TakeDialog workspace="w" items={[row('a', 'en'), row('b', 'fr')]} onClose={() => undefined} onTaken={(s) => taken.push(s.title)} />
      </QueryClientProvider>,
    );
    await userEvent.selectOptions(screen.getByLabelText('Into'), await screen.findByRole('option', { name: 'Stocks: 1 item' }));
    await userEvent.click(screen.getByRole('button', { name: 'Take 2' }));
    await waitFor(() => expect(taken).toEqual(['Stocks']));
    const [{ url, body }] = sent as [{ url: string; body: { base: number; operations: { operation: { type: string; at: number; items: Item[] } }[] } }];
    expect(url).toBe('/api/v1/sets/there/operations');
    expect(body.base).toBe(4);
    const [{ operation }] = body.operations as [{ operation: { type: string; at: number; items: Item[] } }];
    const { type, at, items } = operation;
    expect([type, at, items.map((i) => i.language)]).toEqual(['insert', 1, ['en', 'fr']]);
    for (const i of items) {
      expect(['a', 'b']).not.toContain(i.id);
      expect([i.section, i.label]).toEqual([undefined, undefined]);
    }
    refuse = true;
    await userEvent.click(screen.getByRole('button', { name: 'Take 2' }));
    expect(await screen.findByText('You are reader here.')).toBeTruthy();
    expect(taken).toEqual(['Stocks']);
  } finally {
    globalThis.fetch = before;
  }
});
