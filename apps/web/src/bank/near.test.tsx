/** @jest-environment ./src/testing/environment.mjs */
/** Near-duplicates on the screen: told apart and joined; and views by name. */
import '../testing/browser.js';
import type { Item } from '@zakuska/core';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Schemas } from '../api/client.js';
import { answering, Refused, show, somebody } from '../testing/server.js';
import NearPage from './NearPage.js';
import { usedWords } from './used.js';
import { Views } from './Views.js';

let end = (): void => undefined;
afterEach(() => {
  cleanup();
  end();
});
const row = (set: string, stem: string): Schemas['BankItem'] => ({
  set,
  setTitle: set.toUpperCase(),
  path: [],
  state: 'open',
  changedAt: '2026-11-28T00:00:00Z',
  use: { answers: 0, sets: 1 },
  item: { id: `i${set}`, kind: 'true-false', stem, points: 1, answer: true } as Item,
});
const GROUP = { items: [row('a', 'Is salt white?'), row('b', 'Is the salt white?'), row('c', 'Is salt white?')] };

test('how an item did, in words', () => {
  expect(usedWords({ answers: 0, sets: 1 })).toBe('not used yet');
  expect(usedWords({ answers: 0, sets: 3 })).toBe('in 3 sets, not used yet');
  expect(usedWords({ answers: 1, sets: 1, share: 0.5 })).toBe('1 answer, 50 % earned');
});

test('one wording is kept for all: the others become copies of it, set by set', async () => {
  const served = answering({
    '/workspaces/w/bank/near': { groups: [GROUP], total: 1 },
    '/sets/a': { version: 4 },
    '/sets/c': { version: 9 },
    'POST /sets/a/operations': { version: 5 },
    'POST /sets/c/operations': { version: 10 },
  });
  ({ end } = served);
  show(<NearPage />);
  const group = within(await screen.findByRole('region', { name: 'Group 1: asked 3 times' }));
  expect(group.getByText('Other than the first: the question.')).toBeTruthy();
  expect(group.getByText('The same as the first.')).toBeTruthy();
  await userEvent.click(group.getAllByRole('button', { name: 'Keep this wording for all' })[1] as HTMLElement);
  const posts = (): typeof served.sent => served.sent.filter((s) => s.method === 'POST');
  await waitFor(() => expect(posts().map((s) => s.path)).toEqual(['/sets/a/operations', '/sets/c/operations']));
  const [{ body }] = posts() as unknown as [{ body: { base: number; merge: boolean; operations: [{ operation: { operations: [{ item: Item }] } }] } }];
  expect([body.base, body.merge]).toEqual([4, true]);
  expect(body.operations[0].operation.operations[0].item).toMatchObject({ id: 'ia', stem: 'Is the salt white?', takenFrom: { set: 'b', item: 'ib' } });
});

test('they are told apart, which can be taken back; a reader only looks; none is said; a failure can be tried again', async () => {
  const served = answering({ '/workspaces/w/bank/near': { groups: [GROUP], total: 1 }, 'POST /workspaces/w/bank/not-alike': null });
  ({ end } = served);
  show(<NearPage />);
  await userEvent.click(await screen.findByRole('button', { name: 'Not the same' }));
  await waitFor(() =>
    expect(served.sent.find((s) => s.method === 'POST')?.body).toEqual({
      items: ['a', 'b', 'c'].map((set) => ({ set, item: `i${set}` })),
      differ: true,
    }),
  );
  cleanup();
  show(<NearPage />, { session: { ...somebody, workspaces: [{ id: 'w', name: 'School', role: 'reader' }] } });
  await screen.findByRole('region', { name: 'Group 1: asked 3 times' });
  expect(screen.queryByRole('button', { name: 'Not the same' })).toBeNull();
  cleanup();
  end();
  let broken = true;
  ({ end } = answering({ '/workspaces/w/bank/near': () => (broken ? new Refused(503, 'Not just now.') : { groups: [], total: 0 }) }));
  show(<NearPage />);
  expect((await screen.findByRole('alert')).textContent).toContain('Not just now.');
  broken = false;
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('No two items ask the same')).toBeTruthy();
});

test('a view is kept under a name, known again, forgotten', async () => {
  let views = [{ id: 'v', name: 'Open ones', address: 'state=open' }];
  const served = answering({
    '/workspaces/w/bank/views': () => views,
    'PUT /workspaces/w/bank/views': ({ body }: { body: unknown }) => {
      const made = { id: 'n', ...(body as { name: string; address: string }) };
      views = [...views, made];
      return made;
    },
    'DELETE /workspaces/w/bank/views/v': () => {
      views = views.filter((v) => v.id !== 'v');
      return null;
    },
  });
  ({ end } = served);
  show(<Views workspace="w" address="q=rye" worth />);
  expect((await screen.findByRole('link', { name: 'Open ones' })).getAttribute('href')).toBe('/bank?state=open');
  await userEvent.click(screen.getByRole('button', { name: 'Keep this view' }));
  await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'Rye{Enter}');
  expect((await screen.findByRole('link', { name: 'Rye' })).getAttribute('href')).toBe('/bank?q=rye');
  // what is kept already is not offered again
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Keep this view' })).toBeNull());
  await userEvent.click(screen.getByRole('button', { name: 'Forget the view “Open ones”' }));
  await waitFor(() => expect(screen.queryByRole('link', { name: 'Open ones' })).toBeNull());
});
