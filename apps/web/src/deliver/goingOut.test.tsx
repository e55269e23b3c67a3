/** @jest-environment ./src/testing/environment.mjs */
/** What goes out is chosen line by line, and ticked off as it arrives. */
import '../testing/browser.js';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { GoingOut, type Line } from './GoingOut.js';
import { linesOf } from './goingLines.js';

afterEach(cleanup);

const going = (key: string, item: string, print = 'p') => ({ key, item, name: `Item ${item}`, print });

test('items are new, changed or as there; one that becomes several is as new as its newest part', () => {
  const there = { pieces: ['a', 'b1', 'b2', 'c1'].map((key) => ({ key, print: 'p' })) };
  const pieces = [going('a', 'a'), going('b1', 'b'), going('b2', 'b', 'other'), going('c1', 'c'), going('c2', 'c'), going('d', 'd')];
  expect(linesOf(pieces, there).map((l) => [l.item, l.state, l.parts])).toEqual([
    ['a', 'same', 1],
    ['b', 'changed', 2],
    ['c', 'new', 2],
    ['d', 'new', 1],
  ]);
  expect(linesOf(pieces, undefined).every((l) => l.state === 'new')).toBe(true);
});

const LINES: Line[] = [
  { item: 'a', name: 'First', state: 'same', parts: 1 },
  { item: 'b', name: 'Second', state: 'changed', parts: 2 },
  { item: 'c', name: 'Third', state: 'new', parts: 1 },
];
function Held({ known = true, left = 0 }: { known?: boolean; left?: number }) {
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  return <GoingOut lines={LINES} without={without} onWithout={setWithout} known={known} left={left} />;
}

test('lines are chosen one by one, all and none; what stays here is told', async () => {
  const user = userEvent.setup();
  render(<Held left={2} />);
  const group = screen.getByRole('group');
  expect(group.textContent).toContain('All 3 items go · 2 stay here');
  expect(group.textContent).toContain('1 new, 1 changed since, 1 as there already');
  expect(screen.getByText('as 2')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: /Second/ }));
  expect(group.textContent).toContain('2 of 3 items go');
  await user.click(screen.getByRole('button', { name: 'All' }));
  expect(group.textContent).toContain('All 3 items go');
  await user.click(screen.getByRole('button', { name: 'None' }));
  expect(group.textContent).toContain('0 of 3 items go');
});

test('where nothing of the set is there yet, nothing is said of it', () => {
  render(<Held known={false} />);
  expect(screen.queryByText(/as there already/)).toBeNull();
});

test('the same lines tick off, in words as well as in signs', () => {
  const statuses = ['arrived', 'changed', 'same', 'refused', 'taken out', 'waiting'] as const;
  render(<GoingOut.Ticking items={statuses.map((status, n) => ({ key: `${n}`, item: `${n}`, name: `Item ${n}`, status }))} />);
  const rows = within(screen.getByRole('list', { name: 'What goes' })).getAllByRole('listitem');
  expect(rows.map((r) => r.textContent)).toEqual([
    'Item 0arrived',
    'Item 1changed there',
    'Item 2was there',
    'Item 3refused',
    'Item 4taken out',
    'Item 5waits',
  ]);
});
