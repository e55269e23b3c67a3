/** @jest-environment ./src/testing/environment.mjs */
/** Agreeing on the columns of a table: what is chosen is what the items are read by, sheet by sheet, and a kept mapping is known again. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { type Mapping, propose, proposeMapping, readMapped, signatureOf, type TableSheet } from '@zakuska/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { SheetView } from '../files/open.worker.js';
import type { TablePreview } from '../files/preview.js';

// the worker's part, in this process: the same core functions over sheets that are held here
let sheets: TableSheet[] = [];
let stopped = false;
const remote = {
  seen: (_: string, n: number, mapping: Mapping | null, rows: number[] | null): TablePreview => {
    if (stopped) throw new Error('ended');
    const read = mapping ? readMapped(sheets[n] as TableSheet, mapping, rows ? new Set(rows) : undefined) : { set: { items: [] }, rows: [], diagnostics: [] };
    const problems = read.diagnostics.filter((d) => d.severity !== 'info');
    return {
      count: read.set.items.length,
      whole: true,
      first: read.set.items.slice(0, 4),
      rows: [...read.rows],
      reasons: [],
      problems,
      problemCount: problems.length,
    };
  },
  proposeWith: (_: string, n: number, change: { header?: number; hidden?: boolean }) => {
    const m = proposeMapping(sheets[n] as TableSheet, change.hidden ?? false);
    return m && { ...m, ...(change.header !== undefined && { header: change.header }) };
  },
  signature: (_: string, n: number, mapping: Mapping) => signatureOf(sheets[n] as TableSheet, mapping),
};
jest.unstable_mockModule('../files/opening.js', () => ({ opener: { call: async (run: (r: typeof remote) => unknown) => run(remote) } }));
const { TableMapping } = await import('./TableMapping.js');
type Choices = Parameters<Parameters<typeof TableMapping>[0]['onAgree']>[0];

afterEach(() => {
  cleanup();
  stopped = false;
});

const viewOf = (s: TableSheet): SheetView => ({
  name: s.name,
  rows: s.rows.map((r) => [...r]),
  rowCount: s.rows.length,
  columns: Math.max(...s.rows.map((r) => r.length)),
  hiddenRows: 0,
  hiddenColumns: 0,
  template: false,
  mapping: proposeMapping(s),
  sure: propose(s)?.sure ?? [],
  other: propose(s)?.other ?? null,
  heads: s.rows.map((_, header) => signatureOf(s, { ...(proposeMapping(s) as Mapping), header })),
});
const bread: TableSheet = {
  name: 'Bread',
  rows: [
    ['Question', 'A', 'B', 'C', 'Key', 'Page'],
    ['What feeds a starter?', 'salt', 'flour', 'oil', 'B', '12'],
    ['What slows it?', 'salt', 'sugar', 'heat', 'A', '13'],
    ['What makes it rise?', 'gas', 'steam', 'salt', 'A', '14'],
  ],
};
const cheese: TableSheet = {
  name: 'Cheese',
  rows: [
    ['Question', 'A', 'B', 'Key'],
    ['What is brie?', 'soft', 'hard', 'A'],
  ],
};

async function agreeing(list: TableSheet[], kept: Parameters<typeof TableMapping>[0]['kept'] = []): Promise<{ agreed: Choices[]; cancelled: () => number }> {
  sheets = list;
  const agreed: Choices[] = [];
  let cancelled = 0;
  const views = list.map(viewOf);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <TableMapping
        id="f"
        name="bank.csv"
        sheets={views}
        kept={kept}
        workspace="w"
        agreed={null}
        last
        onCancel={() => cancelled++}
        onAgree={(c) => agreed.push(c)}
      />
    </QueryClientProvider>,
  );
  await act(() => new Promise((r) => setTimeout(r, 20)));
  return { agreed, cancelled: () => cancelled };
}
const items = (): HTMLElement => screen.getByRole('region', { name: 'The items as they will be' });

test('what is proposed is shown with its items, and agreed on in one press', async () => {
  const { agreed } = await agreeing([bread]);
  expect((screen.getByLabelText('Column A is') as HTMLSelectElement).value).toBe('question');
  expect((screen.getByLabelText('Column E is') as HTMLSelectElement).value).toBe('key');
  expect(within(items()).getByRole('status').textContent).toMatch(/^3 items/);
  expect(items().textContent).toContain('What feeds a starter?');
  await userEvent.click(screen.getByRole('button', { name: 'These columns are right: 3 items' }));
  expect(agreed).toMatchObject([[{ sheet: 0, items: 3, rows: null, mapping: { header: 0 } }]]);
});

test('another use of a column reads the items anew', async () => {
  const { agreed } = await agreeing([bread]);
  await userEvent.selectOptions(screen.getByLabelText('Column E is'), 'not used');
  expect(await within(items()).findByText(/to look at/)).toBeTruthy();
  await userEvent.selectOptions(screen.getByLabelText('Column F is'), 'points');
  await userEvent.click(screen.getByRole('button', { name: /^These columns are right/ }));
  expect(agreed[0]?.[0]?.mapping?.columns).toEqual(['question', 'option', 'option', 'option', 'ignore', 'points']);
});

test('rows are chosen by their numbers, and nonsense is told', async () => {
  const { agreed } = await agreeing([bread]);
  await userEvent.type(screen.getByLabelText('Rows'), 'all of them');
  expect(screen.getByText('Write 2-40, 45.')).toBeTruthy();
  await userEvent.clear(screen.getByLabelText('Rows'));
  await userEvent.type(screen.getByLabelText('Rows'), '2-3');
  expect(await screen.findByRole('button', { name: 'These columns are right: 2 items' })).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: /^These columns are right/ }));
  expect(agreed[0]?.[0]?.rows).toEqual([1, 2]);
});

test('of several sheets each has columns of its own, and one may be left alone', async () => {
  const { agreed } = await agreeing([bread, cheese]);
  expect(screen.getAllByRole('tab').map((t) => t.textContent)).toEqual(['Bread 3 items', 'Cheese 1 items']);
  await userEvent.click(screen.getByRole('tab', { name: /^Cheese/ }));
  expect(items().textContent).toContain('What is brie?');
  await userEvent.click(screen.getByLabelText('Take this sheet'));
  expect(screen.getByRole('tab', { name: /^Cheese/ }).textContent).toBe('Cheese left alone');
  await userEvent.click(screen.getByRole('button', { name: 'These columns are right: 3 items' }));
  expect(agreed[0]?.map((c) => c.sheet)).toEqual([0]);
});

test('without headings nothing is proposed by them, and nothing can be agreed on without a question', async () => {
  await agreeing([bread]);
  await userEvent.selectOptions(screen.getByLabelText('Column A is'), 'not used');
  expect(await screen.findByText('Say which column holds the questions, and which the options or keys.')).toBeTruthy();
  expect((screen.getByRole('button', { name: /^These columns are right/ }) as HTMLButtonElement).disabled).toBe(true);
});

// keys that name an option by its place and by its words alike
const counting: TableSheet = {
  name: 'Counting',
  rows: [
    ['Question', 'A', 'B', 'C', 'D', 'Answer'],
    ['How many eggs?', '2', '3', '4', '1', '3'],
    ['How many folds?', '4', '1', '2', '3', '1'],
    ['How many layers?', '3', '4', '1', '2', '4'],
  ],
};
const agreeButton = (): HTMLButtonElement => screen.getByRole('button', { name: /^These columns are right/ });

test('keys that can be read in two ways are asked, side by side, before anything is taken', async () => {
  const { agreed } = await agreeing([counting]);
  const question = screen.getByRole('group', { name: 'The keys of this table can be read in two ways' });
  expect(agreeButton().disabled).toBe(true);
  expect(screen.getByText('Say first which keys are right.')).toBeTruthy();
  const [first, second] = within(question).getAllByRole('radio') as [HTMLInputElement, HTMLInputElement];
  expect([first.checked, second.checked]).toEqual([false, false]);
  await userEvent.click(second);
  expect(agreeButton().disabled).toBe(false);
  await userEvent.click(agreeButton());
  expect(agreed[0]?.[0]?.mapping).toEqual(propose(counting)?.other?.mapping);
});

test('the answer is kept with the headings, so that the same layout is not asked again', async () => {
  const kept: { name: string; signature: string; mapping: Mapping }[] = [];
  const before = globalThis.fetch;
  globalThis.fetch = async (request) => {
    kept.push((await (request as Request).json()) as (typeof kept)[number]);
    return new Response('{}', { status: 200, headers: { 'content-type': 'application/json' } });
  };
  try {
    await agreeing([counting]);
    await userEvent.click(screen.getAllByRole('radio')[1] as HTMLElement);
    await userEvent.click(agreeButton());
    await act(async () => void (await new Promise((r) => setTimeout(r, 20))));
  } finally {
    globalThis.fetch = before;
  }
  const other = propose(counting)?.other?.mapping as Mapping;
  expect(kept).toEqual([{ name: expect.any(String), signature: signatureOf(counting, other), mapping: other }]);
  cleanup();
  const { agreed } = await agreeing([counting], [{ id: 'k', ...(kept[0] as (typeof kept)[number]) }]);
  expect(screen.queryByRole('group', { name: /two ways/ })).toBeNull();
  await userEvent.click(agreeButton());
  expect(agreed[0]?.[0]?.mapping).toEqual(other);
});

test('the keyboard answers which keys are right, and a change of the columns settles it as well', async () => {
  const { agreed } = await agreeing([counting]);
  screen.getAllByRole('radio')[0]?.focus();
  await userEvent.keyboard(' ');
  expect((screen.getAllByRole('radio')[0] as HTMLInputElement).checked).toBe(true);
  expect(agreeButton().disabled).toBe(false);
  cleanup();
  await agreeing([counting]);
  await userEvent.selectOptions(screen.getByLabelText('The key names options'), 'by its words');
  expect(screen.queryByRole('group', { name: /two ways/ })).toBeNull();
  expect(agreeButton().disabled).toBe(false);
  expect(agreed).toEqual([]);
});

test('a column whose use is not sure says so', async () => {
  await agreeing([{ name: '', rows: [['Name', 'Thing'], ...['loaf', 'bun', 'roll'].map((w) => [`The ${w} of the house`, w])] }]);
  const heads = screen.getAllByRole('columnheader').map((h) => h.textContent ?? '');
  expect(heads.some((h) => /likely|may be otherwise/.test(h))).toBe(true);
});

test('a mapping that was kept is known again by its headings', async () => {
  const own = proposeMapping(bread) as Mapping;
  const mapping = { ...own, columns: own.columns.map((u, i) => (i === 5 ? ('points' as const) : u)) };
  await agreeing([bread], [{ id: 'm', name: 'Our bank', signature: signatureOf(bread, own), mapping }]);
  expect(screen.getByText('✓ recognised: “Our bank”')).toBeTruthy();
  expect((screen.getByLabelText('Column F is') as HTMLSelectElement).value).toBe('points');
});

test('a table whose worker was stopped says so, and Cancel leads out', async () => {
  stopped = true;
  const { cancelled } = await agreeing([bread]);
  expect(screen.getByRole('alert').textContent).toContain('This table is no longer open');
  await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(cancelled()).toBe(1);
});
