/** @jest-environment ./src/testing/environment.mjs */
/** Tables of answers marked: where the key is, what a person says of columns, what comes out. Scores were counted by hand. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { type KeptTable, mark, readDraft } from '@zakuska/core';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { marking } from './tableMarking.js';

// the worker of the page, without a thread of its own
jest.unstable_mockModule('../worker/client.js', () => ({
  WorkerClient: class {
    call = async (run: (remote: typeof marking) => unknown) => run(marking);
  },
}));
const saved: { text: string; name: string }[] = [];
jest.unstable_mockModule('../ui/saveFile.js', () => ({
  saveFile: (bytes: Uint8Array, name: string) => saved.push({ text: new TextDecoder().decode(bytes), name }),
}));
const { MarkTable } = await import('./MarkTable.js');

const TABLE = `Timestamp,Your name,Which flour is strongest?,How hot is the oven (°C)?,Any comments?
2026/11/02 9:00,ANSWER KEY,strong wheat,220,
2026/11/02 9:05,Ada,Strong wheat,220 °C,nice
2026/11/02 9:06,Otto,rye,220,
2026/11/02 9:07,Mia,rye,200,
`;
const WITHOUT = TABLE.split('\n')
  .filter((l) => !l.includes('ANSWER KEY'))
  .join('\n');

afterEach(cleanup);
const shown = (props: Parameters<typeof MarkTable>[0] = {}) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MarkTable {...props} />
    </QueryClientProvider>,
  );
async function open(text: string, set?: Parameters<typeof MarkTable>[0]['set'], keep?: Parameters<typeof MarkTable>[0]['keep']) {
  shown({ ...(set && { set }), keep });
  const user = userEvent.setup();
  await user.upload(screen.getByLabelText('Table of answers'), new File([text], 'week two.csv', { type: 'text/csv' }));
  await screen.findByRole('region', { name: 'Columns of the table' });
  return user;
}
const scores = (): string[] =>
  within(screen.getByRole('region', { name: 'Scores of people' }))
    .getAllByRole('row')
    .map((r) => r.textContent ?? '');
const shows = (expected: string[]): Promise<void> => waitFor(() => expect(scores()).toEqual(expected));
const mean = (): string => within(screen.getByRole('complementary', { name: 'Scores' })).getByRole('status').textContent ?? '';

test('a row that is called the key is; who has what, what was missed most, who is under half', async () => {
  await open(TABLE);
  await shows(['Ada2', 'Otto1', 'Mia0']);
  expect(mean()).toBe('1 of 2 points on average, 3 people');
  expect(screen.getByRole<HTMLSelectElement>('combobox', { name: 'What is right' }).selectedOptions[0]?.textContent).toBe('row 2: ANSWER KEY');
  expect(screen.getByText(', 1 under half')).toBeTruthy();
  const missed = within(screen.getByRole('complementary', { name: 'Scores' }))
    .getAllByRole('listitem')
    .map((l) => l.textContent);
  expect(missed.slice(0, 2)).toEqual(['Which flour is strongest?33 %', 'How hot is the oven (°C)?67 %']);
});

test('points, uses and keys of a person hold against what was found, and can be taken back', async () => {
  const user = await open(TABLE);
  await shows(['Ada2', 'Otto1', 'Mia0']);
  const points = screen.getByLabelText('Which flour is strongest?: points');
  await user.clear(points);
  await user.type(points, '3');
  await user.tab();
  await shows(['Ada4', 'Otto1', 'Mia0']);
  const key = screen.getByLabelText('Which flour is strongest?: what is right');
  await user.clear(key);
  await user.type(key, 'rye');
  await user.tab();
  await shows(['Ada1', 'Otto4', 'Mia3']);
  await user.clear(key);
  await user.tab();
  await shows(['Ada4', 'Otto1', 'Mia0']);
  await user.selectOptions(screen.getByLabelText('Which flour is strongest?: used as'), 'Not marked');
  await shows(['Ada1', 'Otto1', 'Mia0']);
});

test('without a key it is said what is missing; keys that are typed do', async () => {
  const user = await open(WITHOUT);
  await screen.findByText(/No row says that it is the key/);
  await user.type(screen.getByLabelText('How hot is the oven (°C)?: what is right'), '220');
  await user.tab();
  await shows(['Ada1', 'Otto1', 'Mia0']);
  expect(screen.getByRole<HTMLSelectElement>('combobox', { name: 'What is right' }).value).toBe('typed');
});

test('by the items of the set, whatever the order of columns; another row may be the key all the same', async () => {
  const { set } = readDraft('1. How hot is the oven (°C)?\nAnswer: 200\n\n2. Which flour is strongest?\na) strong wheat\nb) rye *\n');
  const user = await open(WITHOUT, set);
  await shows(['Ada0', 'Otto1', 'Mia2']);
  await user.selectOptions(screen.getByRole('combobox', { name: 'What is right' }), 'row 2: Ada');
  await shows(['Otto1', 'Mia0']);
});

test('of somebody who tried again one row counts, if that is chosen', async () => {
  const user = await open(`${TABLE}2026/11/03 9:00,Mia,strong wheat,220,\n`);
  await shows(['Ada2', 'Otto1', 'Mia0', 'Mia2']);
  expect(screen.getByText(/“Mia” stands there 2 times/)).toBeTruthy();
  await user.selectOptions(screen.getByLabelText('Of a person who tried again'), 'the best one');
  await shows(['Ada2', 'Otto1', 'Mia2']);
});

test('scores as a file: names that begin like a formula are text, quotes stay', async () => {
  const user = await open(TABLE.replace('Otto', '"=Otto ""O"""'));
  await shows(['Ada2', '=Otto "O"1', 'Mia0']);
  await user.click(screen.getByRole('button', { name: 'Download CSV' }));
  expect(saved.at(-1)).toEqual({ name: 'week two scores.csv', text: 'Name,Points,Of\r\nAda,2,2\r\n"\'=Otto ""O""",1,2\r\nMia,0,2\r\n' });
});

test('what was pasted is marked; what is no table is told, and nothing else happens', async () => {
  shown();
  const user = userEvent.setup();
  await user.upload(screen.getByLabelText('Table of answers'), new File(['%PDF-1.4 nothing'], 'a.csv'));
  await waitFor(() => expect(screen.getByRole('alert').textContent).toMatch(/^a\.csv: /));
  await user.click(screen.getByLabelText(/Or paste it/));
  await user.paste('Name\tQ1\nKey\tb\nAda\tB) rye\nOtto\ta');
  await user.click(screen.getByRole('button', { name: 'Mark what was pasted' }));
  await screen.findByRole('region', { name: 'Columns of the table' });
  await shows(['Ada1', 'Otto0']);
  await user.click(screen.getByRole('button', { name: 'Another table' }));
  expect(screen.getByRole('button', { name: 'Open a table' })).toBeTruthy();
});

test('kept with what was said of its columns: everybody has the same points there', async () => {
  const kept: [string, KeptTable][] = [];
  const run = (title: string, table: KeptTable): Promise<void> => {
    kept.push([title, table]);
    return Promise.resolve();
  };
  const user = await open(TABLE, undefined, { label: 'Keep in Results', run });
  await shows(['Ada2', 'Otto1', 'Mia0']);
  await user.clear(screen.getByLabelText('Which flour is strongest?: points'));
  await user.type(screen.getByLabelText('Which flour is strongest?: points'), '3');
  await user.tab();
  await shows(['Ada4', 'Otto1', 'Mia0']);
  await user.click(screen.getByRole('button', { name: 'Keep in Results' }));
  await waitFor(() => expect(kept).toHaveLength(1));
  const [title, { items, people }] = kept[0] as [string, KeptTable];
  expect(title).toBe('week two');
  expect(people.map((p) => [p.name, items.reduce((sum, i) => sum + mark(i, p.responses[i.id]).points, 0)])).toEqual([
    ['Ada', 4],
    ['Otto', 1],
    ['Mia', 0],
  ]);
});
