/** @jest-environment ./src/testing/environment.mjs */
/** What is asked of a draw as it is typed, and what was drawn as it is shown. */
import '../testing/browser.js';
import { draw, type DrawPlan, drawPlan, figuresOf, type Item, nearGroups, poolOf } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { MemoryRouter } from 'react-router';
import { ExchangeDialog } from './ExchangeDialog.js';
import { PlanForm } from './PlanForm.js';
import { VersionsTable } from './VersionsTable.js';

afterEach(cleanup);

const items: Item[] = Array.from(
  { length: 12 },
  (_, n) =>
    ({
      id: `i${n}`,
      kind: n % 4 === 3 ? 'true-false' : 'multiple-choice',
      stem: `Is step ${n * 7} of recipe ${n * 13} the one in book ${n * 3}?`,
      points: 1,
      outcomes: [n % 2 ? 'Heat' : 'Yeast'],
      ...(n % 4 === 3 ? { answer: true } : { options: [0, 1, 2].map((k) => ({ id: `o${k}`, content: `choice ${n * 5 + k}`, credit: k === 0 ? 1 : 0 })) }),
    }) as Item,
);
const pool = poolOf([{ title: 'Pool', items }]);
const groups = nearGroups(items);

/** The form with a plan that it changes. */
function form(start: DrawPlan) {
  let now = start;
  function Held() {
    const [plan, setPlan] = useState(start);
    now = plan;
    return <PlanForm pool={pool} groups={groups} plan={plan} mayEdit onPlan={setPlan} />;
  }
  render(<Held />);
  return () => now;
}
const two = drawPlan.parse({ versions: ['A', 'B'].map((name) => ({ name, count: 3 })), overlap: 'none', seed: 2 });

test('versions by number, or one number each; a blueprint of rows with what the pool offers; what cannot be is said at once', async () => {
  const plan = form(two);
  await userEvent.clear(screen.getByLabelText('Items in each'));
  await userEvent.type(screen.getByLabelText('Items in each'), '2, 3, 4');
  expect(plan().versions).toEqual([
    { name: 'A', count: 2 },
    { name: 'B', count: 3 },
    { name: 'C', count: 4 },
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'A row for each outcome' }));
  expect(plan().rows).toEqual([
    { outcome: 'Heat', count: 1 },
    { outcome: 'Yeast', count: 1 },
  ]);
  await userEvent.selectOptions(screen.getByLabelText('Row 1: and with'), 'True or false');
  expect(plan().rows[0]).toEqual({ outcome: 'Heat', kind: 'true-false', count: 1 });
  expect(within(screen.getAllByRole('row')[1] as HTMLElement).getAllByRole('cell')[2]?.textContent).toBe('3');
  const many = screen.getByLabelText('Row 1: how many');
  await userEvent.clear(many);
  await userEvent.type(many, '9');
  expect(screen.getByRole('alert').textContent).toContain('and the pool offers 3: 6 too few.');
  await userEvent.selectOptions(screen.getByLabelText('Row 1: items or points'), 'points');
  expect(plan().rows[0]).toEqual({ outcome: 'Heat', kind: 'true-false', points: 9 });
  await userEvent.click(screen.getByRole('button', { name: 'Take out row 1' }));
  expect(plan().rows).toEqual([{ outcome: 'Yeast', count: 1 }]);
});

test('positions in the cells, figures and keys at the foot, overlap as a triangle; pinned, kept apart and exchanged from there', async () => {
  const drawn = draw(pool, two);
  const asked: unknown[] = [];
  render(
    <MemoryRouter>
      <VersionsTable
        pool={pool}
        drawn={drawn}
        figures={figuresOf(pool, drawn)}
        deliver={(v) => `/to/${v}`}
        pinned={new Set([drawn.versions[0]?.items[0] ?? ''])}
        onPin={(id) => asked.push(['pin', id])}
        onApart={(ids) => asked.push(['apart', ...ids])}
        onExchange={(v, id) => asked.push(['exchange', v, id])}
      />
    </MemoryRouter>,
  );
  const [table, overlap] = screen.getAllByRole('table') as [HTMLElement, HTMLElement];
  const body = within(table).getAllByRole('rowgroup')[1] as HTMLElement;
  expect(within(body).getAllByRole('row').length).toBe(6);
  expect(within(body).getAllByRole('button', { name: /In every version/, pressed: true }).length).toBe(1);
  expect(within(table).getByRole('row', { name: 'Points 3 3' })).toBeTruthy();
  expect(within(table).getByLabelText(/^Keys of version A:/)).toBeTruthy();
  expect(overlap.textContent).toContain('B0');
  expect(screen.getByRole('link', { name: 'Deliver B' }).getAttribute('href')).toBe('/to/B');
  await userEvent.click(within(table).getByRole('button', { name: 'Item 2 of version B: exchange' }));
  const marks = within(body).getAllByRole('checkbox');
  await userEvent.click(marks[0] as HTMLElement);
  await userEvent.click(marks[1] as HTMLElement);
  await userEvent.click(screen.getByRole('button', { name: 'Never in one version: the 2 marked' }));
  expect(asked[0]).toEqual(['exchange', 1, drawn.versions[1]?.items[1]]);
  expect(asked[1]).toHaveLength(3);
  await userEvent.click(screen.getByRole('button', { name: 'Show the 6 that no version holds' }));
  expect(within(body).getAllByRole('row').length).toBe(12);
});

test('an exchange offers what breaks no rule, and the rest with the reason', async () => {
  const drawn = draw(pool, two);
  const id = drawn.versions[0]?.items[0] ?? '';
  let chosen: string | undefined;
  render(<ExchangeDialog pool={pool} drawn={drawn} at={0} id={id} onClose={() => undefined} onExchanged={(d) => (chosen = d.versions[0]?.items[0])} />);
  expect(screen.getByText('3 that break a rule')).toBeTruthy();
  expect(screen.getAllByText(/stands in version B already/).length).toBe(3);
  await userEvent.click(screen.getAllByRole('button', { name: /^Is step/ })[0] as HTMLElement);
  expect(chosen).not.toBe(id);
  expect(drawn.versions.flatMap((v) => v.items)).not.toContain(chosen);
});
