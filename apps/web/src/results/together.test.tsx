/** @jest-environment ./src/testing/environment.mjs */
/** All versions together on the screen: an item of two versions is one line, the most missed first; what went out twice is one version. */
import '../testing/browser.js';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { Item, Mark, QuizSet } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Together } from './Together.js';

afterEach(cleanup);
const item = (id: string): Item => ({ id, kind: 'true-false', stem: `Is ${id} so?`, points: 2, answer: true });
const set = (ids: string): QuizSet => ({ title: 'V', items: [...ids].map(item) });
/** Learners by their points, an item each. */
const attempts = (ids: string, ...points: number[][]) =>
  points.map((row) => ({ marks: Object.fromEntries([...ids].map((id, j) => [id, { points: row[j] } as Mark])) }));
const RESULTS: Record<string, { set: QuizSet; attempts: { marks: Record<string, Mark> }[] }> = {
  a1: { set: set('xy'), attempts: attempts('xy', [2, 0], [2, 2]) },
  a2: { set: set('xy'), attempts: attempts('xy', [0, 0]) },
  b1: { set: set('yz'), attempts: attempts('yz', [0, 2]) },
};
const show = (fetch: (s: { id: string }) => Promise<(typeof RESULTS)[string]>): void => {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <Together
        sources={[
          { id: 'a1', version: 'A' },
          { id: 'a2', version: 'A' },
          { id: 'b1', version: 'B' },
        ]}
        query={(s) => ({ queryKey: ['results', s.id], queryFn: () => fetch(s) as Promise<never> })}
      />
    </QueryClientProvider>,
  );
};

test('by hand: x 4 of 6 points, y 2 of 8 in two versions, z all', async () => {
  show((s) => Promise.resolve(RESULTS[s.id] as (typeof RESULTS)[string]));
  expect(await screen.findByText(/^4 responses to versions A, B/)).toBeTruthy();
  const rows = screen.getAllByRole('row').slice(1);
  expect(rows.map((r) => within(r).getByRole('rowheader').textContent)).toEqual(['Is y so?', 'Is x so?', 'Is z so?']);
  const cells = (r: HTMLElement | undefined): (string | null)[] =>
    r
      ? within(r)
          .getAllByRole('cell')
          .map((c) => c.textContent)
      : [];
  expect(cells(rows[0])).toEqual(['25 % of 4', '0.50', '33 % of 3', '0 % of 1']);
  expect(cells(rows[1])).toEqual(['67 % of 3', '0.50', '67 % of 3', '']);
  expect(cells(rows[2])).toEqual(['100 % of 1', '–', '', '100 % of 1']);
  expect(screen.getByRole('region', { name: 'Versions on one scale' }).textContent).toContain('B has no figure: it takes 30 people in each version.');
  await userEvent.click(screen.getByRole('button', { name: 'Is z so?' }));
  expect(within(screen.getByRole('complementary', { name: 'The item' })).getByText('Is z so?')).toBeTruthy();
});

test('what could not be fetched is said', async () => {
  show((s) => (s.id === 'b1' ? Promise.reject(new Error('the line broke')) : Promise.resolve(RESULTS[s.id] as (typeof RESULTS)[string])));
  expect(await screen.findByRole('alert')).toBeTruthy();
});
