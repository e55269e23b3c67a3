/** @jest-environment ./src/testing/environment.mjs */
/** Results handed over: files with the points that count, without names where that is wished, a sheet of one's own filled. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { Item, Mark, Results, ResultSheet } from '@zakuska/core';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

const saved: { text: string; name: string }[] = [];
const copied: string[] = [];
let book: ResultSheet[] = [];
jest.unstable_mockModule('../ui/saveFile.js', () => ({
  saveFile: (bytes: Uint8Array, name: string) => saved.push({ text: new TextDecoder().decode(bytes), name }),
}));
jest.unstable_mockModule('../ui/copyText.js', () => ({ copyText: (text: string) => copied.push(text) }));
jest.unstable_mockModule('../worker/client.js', () => ({
  WorkerClient: class {
    call = async (run: (remote: object) => unknown) =>
      run({
        workbook: (sheets: ResultSheet[]) => {
          book = sheets;
          return new Uint8Array([80, 75]);
        },
      });
  },
}));
const { HandOver } = await import('./HandOver.js');

const item = { id: 'i', kind: 'true-false', stem: 'Is it so?', points: 2, answer: true } as Item;
const sitting = (id: string, name: string, points: number) => ({
  id,
  name,
  points,
  startedAt: '2026-11-02T09:00:00Z',
  submittedAt: '2026-11-02T09:10:00Z',
  marks: { i: { points, credit: points / 2, state: points ? 'right' : 'wrong', reason: '' } as Mark },
  responses: { i: { truth: points > 0 } },
});
const RESULTS: Results = { set: { title: 'Week two', items: [item] }, sittings: [sitting('b', 'Ada Brandt', 2), sitting('a', 'Otto Finch', 0)] };

afterEach(cleanup);
beforeEach(() => saved.splice(0));
function open() {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <HandOver source="d1" results={RESULTS} onClose={() => undefined} />
    </QueryClientProvider>,
  );
  return userEvent.setup();
}

test('files, with names and without', async () => {
  const user = open();
  await user.click(screen.getByRole('button', { name: 'Download Scores (CSV)' }));
  await waitFor(() => expect(saved).toHaveLength(1));
  expect(saved[0]?.name).toBe('Week two results.csv');
  expect(saved[0]?.text).toContain('Ada Brandt,2,2,1,');
  await user.click(screen.getByRole('checkbox', { name: /Without names/ }));
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Download OneRoster 1.1 (CSV)' }).disabled).toBe(true);
  await user.click(screen.getByRole('button', { name: 'Download Workbook (XLSX)' }));
  await waitFor(() => expect(saved).toHaveLength(2));
  expect(book.map((s) => s.name)).toEqual(['Scores', 'Answers', 'Items', 'Key']);
  expect(book[0]?.rows.slice(1).map((r) => r.slice(0, 2))).toEqual([
    ['Person 1', 0],
    ['Person 2', 2],
  ]);
});

test('a sheet of one’s own: the rows come back filled; one without a place for points says what it needs', async () => {
  const user = open();
  const region = screen.getByRole('region', { name: 'Into a sheet of yours' });
  await user.click(within(region).getByRole('textbox'));
  await user.paste('Name\tWeek one\tWeek two\nOtto Finch\t5\t\nMilo Sand\t3\t\n');
  expect(within(region).getByRole('status').textContent).toBe('1 cell is filled, in 2 rows.');
  expect(region.textContent).toContain('These handed in and have no row: Ada Brandt.');
  await user.click(within(region).getByRole('button', { name: 'Copy the rows' }));
  expect(copied).toEqual(['Otto Finch\t5\t0\nMilo Sand\t3\t']);
  await user.clear(within(region).getByRole('textbox'));
  await user.paste('Colour\tShape\n');
  expect(within(region).getByRole('alert').textContent).toMatch(/Nothing of it could be filled/);
});
