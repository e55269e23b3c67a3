/** @jest-environment ./src/testing/environment.mjs */
/** What is shown of results: figures counted by hand, options by their words with who chose them, what is worth a look. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { deckOf, fitIrt, type Item, type Mark, marksOf, pointsOf, type QuizSet, type Response, seeded } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { MemoryRouter, useLocation } from 'react-router';
import type { Attempt } from './sources.js';

let aim: { year?: number; grades?: { name: string; from: number }[] } | null = { year: 8 };
const copied: string[] = [];
jest.unstable_mockModule('../ui/copyText.js', () => ({ copyText: (text: string) => copied.push(text) }));
jest.unstable_mockModule('../set/context.js', () => ({
  useOpenSet: () => ({ view: { id: 's1' }, mayEdit: true, document: { aim }, session: { perform: (o: { aim: typeof aim }) => void (aim = o.aim) } }),
}));
const classes: { id: string; name: string; members: { name: string; mail: string; number: string }[] }[] = [];
const shownDecks: QuizSet[] = [];
jest.unstable_mockModule('./worker.js', () => ({
  away: {
    call: async (run: (r: { slides: (set: QuizSet) => unknown; model: typeof fitIrt }) => unknown) =>
      run({ slides: (s) => (shownDecks.push(s), deckOf(s)), model: fitIrt }),
  },
}));
const asked: { path: string; body: { title?: string; operations?: { operation: { items: Item[] } }[] } }[] = [];
jest.unstable_mockModule('../api/client.js', () => ({
  wordsOf: String,
  call: async (r: unknown) => r,
  api: {
    GET: (path: string) =>
      path === '/api/v1/workspaces/{workspace}/classes'
        ? classes.map(({ id, name, members }) => ({ id, name, people: members.length }))
        : path === '/api/v1/classes/{class}'
          ? classes[0]
          : { version: 1, document: {} },
    POST: (path: string, { body }: (typeof asked)[0]) => {
      asked.push({ path, body });
      return { id: 'new', title: body.title };
    },
  },
}));
jest.unstable_mockModule('../signin/session.js', () => ({ useSession: () => ({ workspaces: [{ id: 'w' }] }) }));
const { Shown } = await import('./Shown.js');

const SET: QuizSet = {
  title: 'T',
  items: [
    {
      id: 'mc',
      kind: 'multiple-choice',
      stem: 'Which flour?',
      points: 2,
      options: [
        { id: 'a', content: 'rye', credit: 1 },
        { id: 'b', content: 'wheat', credit: 0 },
      ],
    },
    { id: 'tf', kind: 'true-false', stem: 'Salt is a spice.', points: 1, answer: false },
    { id: 'sa', kind: 'short-answer', stem: 'What rises?', points: 1, answers: [{ text: 'dough', credit: 1 }], match: { spelling: 0 } },
    { id: 'essay', kind: 'essay', stem: 'Why?', points: 4 },
  ] as unknown as Item[],
};
/** Twenty-four people: the abler half takes wheat, knows of the salt and writes "dough". */
const ATTEMPTS = Array.from({ length: 24 }, (_, n): Attempt => {
  const able = n < 12;
  const responses: Record<string, Response> = {
    mc: { options: [able ? 'b' : 'a'] },
    tf: { truth: !able },
    sa: { text: able ? 'dough' : 'bread' },
    essay: { text: 'So.' },
  };
  const marks = marksOf(SET, responses);
  return { id: `a${n}`, name: `Person ${n}`, attempt: 1, startedAt: '', submittedAt: '', marks, responses, points: pointsOf(marks) };
});

const Where = () => <output>{useLocation().pathname}</output>;

afterEach(cleanup);
function open(see = '') {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={[`/?see=${see}`]}>
        <Shown set={SET} sent={SET} attempts={ATTEMPTS} source="d1" />
        <Where />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return userEvent.setup();
}
const term = (name: string): string => screen.getByText(name).parentElement?.querySelector('dd')?.textContent ?? '';

test('the head: what waits, the mean, how many to discuss', () => {
  open();
  expect(term('responses, 24 to mark by hand')).toBe('24');
  // 12 people with 0 + 1 + 1, 12 with 2 + 0 + 0
  expect(term('mean of 4')).toBe('2');
  // each sorts against the sum of the other two: 2 against 0, 1 against 2, 1 against 2
  expect(term('items to discuss')).toBe('3');
  expect(term('learners under half')).toBe('0');
});

test('a cell of the grid says who and what once somebody points at it', async () => {
  const user = open();
  const row = screen.getByRole('row', { name: /^Person 0 / });
  const cell = within(row).getAllByRole('cell')[1] as HTMLElement;
  expect(cell.title).toBe('');
  await user.hover(cell);
  // most missed first: all three were missed by half, so that they stand as in the set
  expect(cell.title).toBe('Person 0, item 2: right');
  expect(cell.getAttribute('aria-label')).toBe('right');
});

test('an item: options by their words, the key told, who is able chose the other one', async () => {
  const user = open();
  await user.click(screen.getByRole('button', { name: /^Item 1/ }));
  const sheet = screen.getByRole('complementary', { name: 'Item 1' });
  const told = within(sheet)
    .getAllByRole('listitem')
    .map((l) => [...l.querySelectorAll(':scope > span')].map((x) => x.textContent).join(''));
  expect(told).toEqual(['A. rye (right)12', 'B. wheat12']);
  expect(within(sheet).getAllByRole('img')[1]?.getAttribute('aria-label')).toMatch(/^0 %, .*100 %, from the least able fifth to the ablest$/);
  expect(sheet.textContent).toContain('Learners with high scores chose B: the key may be wrong.');
  expect(within(sheet).getByRole('link', { name: 'Change what counts here' }).getAttribute('href')).toBe('/sets/s1/results/marking?of=d1&item=mc');
  await user.click(screen.getByRole('button', { name: /^Item 4/ }));
  expect(screen.getByRole('complementary', { name: 'Item 4' }).textContent).toContain('24 to mark by hand. It counts once all are marked.');
});

test('scores: bars, and the same as a table', async () => {
  const user = open();
  await user.click(screen.getByRole('button', { name: 'Scores' }));
  await user.click(screen.getByText('As a table'));
  // everybody has 2 points
  expect(within(screen.getByRole('row', { name: /^2 to below 2.25/ })).getAllByRole('cell')[1]?.textContent).toBe('24');
  expect(term('Half of all between')).toBe('2 and 2');
  expect(term('Skew')).toBe('–');
});

test('each person a dot, with their name and points; those of equal points over one another', async () => {
  const user = open('scores');
  await user.click(screen.getByRole('checkbox', { name: 'each person a dot' }));
  const dots = [...screen.getByRole('img', { name: /^How 24 scores are spread/ }).querySelectorAll('circle')];
  expect(dots.map((d) => d.textContent)).toEqual(ATTEMPTS.map((a) => `${a.name}: 2`));
  expect(new Set(dots.map((d) => d.getAttribute('cx'))).size).toBe(1);
  expect(new Set(dots.map((d) => d.getAttribute('cy'))).size).toBe(24);
  for (const d of dots) expect(Number(d.getAttribute('cy'))).toBeGreaterThan(0);
});

test('how an item went: the time it took, tries and hints, who left it out and who did not come so far; who was late', async () => {
  const went = ATTEMPTS.map(
    (a, n): Attempt => ({
      ...a,
      times: { mc: n < 12 ? 30 : 95 },
      practice: { mc: { tries: n % 2 ? 1 : 2, hints: n % 4 ? 0 : 1 } },
      notReached: n < 6 ? ['sa'] : [],
      marks: { ...a.marks, sa: { ...(a.marks['sa'] as Mark), state: n < 12 ? 'unanswered' : 'right' } },
      ...(n === 0 && { kept: 0.8 }),
    }),
  );
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={['/']}>
        <Shown set={SET} sent={SET} attempts={went} source="d1" />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: /^Item 1/ }));
  expect(screen.getByRole('complementary', { name: 'Item 1' }).textContent).toContain(
    'Looked at for 1:03\u00a0min in the middle, half of all between 30\u00a0s and 1:35\u00a0min. On average 1.5 tries and 0.3 hints.',
  );
  await user.click(screen.getByRole('button', { name: /^Item 3/ }));
  expect(screen.getByRole('complementary', { name: 'Item 3' }).textContent).toContain('Left out by 25 %. Not reached by 25 %.');
  expect(screen.getByRole('rowheader', { name: /^Person 0/ }).textContent).toContain('handed in late, 20 % off');
});

test('of two hundred items those in sight are drawn, and all are counted', () => {
  const wide: QuizSet = { ...SET, items: Array.from({ length: 200 }, (_, n) => ({ ...(SET.items[1] as Item), id: `w${n}` })) };
  const some = ATTEMPTS.slice(0, 3).map((a): Attempt => ({ ...a, marks: marksOf(wide, {}), points: 0 }));
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={['/']}>
        <Shown set={wide} sent={wide} attempts={some} source="d1" />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  const table = within(screen.getByRole('region', { name: 'Learners and items' })).getByRole('table');
  expect(table.getAttribute('aria-colcount')).toBe('202');
  expect(within(table).queryAllByRole('button', { name: /^Item / }).length).toBeLessThan(60);
});

test('to talk over: most missed first, with what is worth a look', () => {
  open('talk');
  const rows = within(screen.getByRole('region', { name: 'Items from most missed' }))
    .getAllByRole('row')
    .slice(1);
  expect(rows).toHaveLength(3);
  expect(rows[0]?.textContent).toContain('the key may be wrong');
});

test('what is chosen to talk over goes to slides, numbered as it was met, or becomes a retake in its order', async () => {
  const user = open('talk');
  expect(screen.getByText('3 items chosen')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'Choose item 1' }));
  await user.click(screen.getByRole('button', { name: 'Show them on slides' }));
  const numbers = shownDecks.at(-1)?.items.map((i) => [i.id, i.label]);
  expect(numbers?.toSorted()).toEqual([
    ['sa', '3'],
    ['tf', '2'],
  ]);
  expect(await screen.findByRole('region', { name: /^Slide 1 of/ })).toBeTruthy();
  await user.keyboard('{Escape}');
  await user.click(screen.getByRole('button', { name: 'Make a retake of them' }));
  expect(await screen.findByText('/sets/new/arrange')).toBeTruthy();
  expect(asked[0]).toEqual({ path: '/api/v1/workspaces/{workspace}/sets', body: { title: 'T, retake' } });
  const copies = asked[1]?.body.operations?.[0]?.operation.items ?? [];
  expect(copies.map((i) => [i.stem, i.takenFrom?.item])).toEqual([
    ['Salt is a spice.', 'tf'],
    ['What rises?', 'sa'],
  ]);
});

test('somebody’s paper opens from the grid: answers, points, keys; on to the next; as text for a mail', async () => {
  const user = open();
  await user.click(screen.getByRole('button', { name: 'Person 0' }));
  const paper = screen.getByRole('dialog', { name: 'Person 0' });
  expect(paper.textContent).toContain('2 of 4 points, 50 %');
  const lines = within(paper)
    .getAllByRole('listitem')
    .map((l) => l.textContent);
  expect(lines[0]).toContain('B. wheat');
  expect(lines[0]).toContain('Right: rye');
  expect(lines[3]).toContain('to mark');
  expect(within(paper).getByRole('link', { name: 'Mark item 4 by hand' }).getAttribute('href')).toBe('/sets/s1/results/marking?of=d1&item=essay&by=one&who=a0');
  await user.click(within(paper).getByRole('button', { name: 'Copy as text' }));
  expect(copied[0]).toMatch(/^T\nPerson 0: 2 of 4 points\n/);
  await user.click(within(paper).getByRole('button', { name: 'Next person' }));
  expect(screen.getByRole('dialog', { name: 'Person 1' })).toBeTruthy();
});

test('grades: how many would get each, kept with what the set is meant to be, and shown beside the points', async () => {
  const user = open();
  await user.click(screen.getByRole('button', { name: 'Grades …' }));
  const dialog = screen.getByRole('dialog', { name: 'Grades' });
  await user.type(within(dialog).getByRole('textbox'), 'good 110');
  expect(within(dialog).getByRole('alert').textContent).toMatch(/more than 100/);
  await user.clear(within(dialog).getByRole('textbox'));
  await user.type(within(dialog).getByRole('textbox'), 'passed 50');
  // everybody has 2 of 4
  expect(within(dialog).getByRole('listitem').textContent).toBe('passed from 50 %24 people');
  await user.click(within(dialog).getByRole('button', { name: 'Use these grades' }));
  expect(aim).toEqual({ year: 8, grades: [{ name: 'passed', from: 0.5 }] });
  cleanup();
  open();
  expect(screen.getAllByRole('cell', { name: 'passed' })).toHaveLength(24);
});

test('by outcome: what was reached, who needs it once more, and a retake of its items', async () => {
  const outcomes = [['Flour'], ['Salt'], ['Flour', 'Salt'], []];
  const set = { ...SET, items: SET.items.map((i, n) => ({ ...i, outcomes: outcomes[n] as string[] })) };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={['/?see=parts']}>
        <Shown set={set} sent={set} attempts={ATTEMPTS} source="d1" />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  const user = userEvent.setup();
  const row = (name: string) => screen.getByRole('row', { name: new RegExp(`^${name}`) });
  const cells = (name: string): (string | null)[] =>
    within(row(name))
      .getAllByRole('cell')
      .slice(0, 3)
      .map((c) => c.textContent);
  // flour: 2 points for the item with the wrong key, 1 for dough: 12 people with 1 of 3, 12 with 2 of 3
  expect(cells('Flour')).toEqual(['2', '3', '50 %']);
  expect(cells('Salt')).toEqual(['2', '2', '50 %']);
  expect(within(row('Flour')).getByText('12 people')).toBeTruthy();
  await user.click(within(row('Flour')).getByText('12 people'));
  await user.click(within(row('Flour')).getByRole('button', { name: 'Copy the names' }));
  expect(copied.at(-1)?.split('\n').sort()).toEqual(
    ATTEMPTS.slice(0, 12)
      .map((a) => a.name)
      .sort(),
  );
  expect(within(row('Salt')).getByText(/people|nobody/).textContent).toBe('12 people');
  await user.selectOptions(screen.getByRole('combobox'), 'kind of item');
  expect(row('short answer')).toBeTruthy();
  await user.selectOptions(screen.getByRole('combobox'), 'outcome');
  asked.splice(0);
  await user.click(screen.getByRole('button', { name: 'Make a retake of Salt' }));
  expect(asked.find((a) => a.body.operations)?.body.operations?.[0]?.operation.items.map((i) => i.stem)).toEqual(['Salt is a spice.', 'What rises?']);
});

test('a model of ability: not for a small group, and figures with their errors for a large one', async () => {
  open('scores');
  expect(screen.getByRole('region', { name: 'A model of ability' }).textContent).toContain('With 24 people its figures would not hold: it takes 100');
  cleanup();
  // who is abler gets more of four items right, with some luck
  const chance = seeded('a class');
  const items = [1, 2, 3, 4].map((n): Item => ({ id: `t${n}`, kind: 'true-false', stem: `${n}`, points: 1, answer: true }));
  const many = Array.from({ length: 300 }, (_, n): Attempt => {
    const responses = Object.fromEntries(items.map((i, k) => [i.id, { truth: chance(`${n} ${k}`) / 2 ** 32 < 1 / (1 + Math.exp(k - (n % 31) / 10)) }]));
    const marks = marksOf({ title: 'T', items }, responses);
    return { id: `m${n}`, name: `P ${n}`, attempt: 1, startedAt: '', submittedAt: '', marks, responses, points: pointsOf(marks) };
  });
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={['/?see=scores']}>
        <Shown set={{ title: 'T', items }} sent={{ title: 'T', items }} attempts={many} source="d1" />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  const user = userEvent.setup();
  const model = within(screen.getByRole('region', { name: 'A model of ability' }));
  expect((model.getByLabelText('Model') as HTMLSelectElement).value).toBe('2PL');
  await user.click(model.getByRole('button', { name: 'Fit it' }));
  const rows = (await model.findAllByRole('row')).slice(1);
  expect(rows).toHaveLength(4);
  for (const r of rows) expect(r.textContent).toMatch(/^\d-?\d+\.?\d* ± \d/);
  expect(model.getByText(/log-likelihood/)).toBeTruthy();
});

const rowsOf = (): string[] =>
  within(screen.getByRole('region', { name: 'Learners and items' }))
    .getAllByRole('rowheader')
    .map((r) => r.textContent ?? '');
test('the grid: by name as people count, items as in the set; leafing through papers follows it', async () => {
  const user = open();
  const items = () =>
    within(screen.getByRole('region', { name: 'Learners and items' }))
      .getAllByRole('button', { name: /^Item/ })
      .map((b) => b.textContent);
  await user.selectOptions(screen.getByLabelText('Learners'), 'by name');
  expect(rowsOf().slice(8, 12)).toEqual(['Person 8', 'Person 9', 'Person 10', 'Person 11']);
  await user.selectOptions(screen.getByLabelText('Items'), 'as in the set');
  expect(items()).toEqual(['1', '2', '3', '4']);
  await user.click(screen.getByRole('button', { name: 'Person 9' }));
  await user.click(within(screen.getByRole('dialog', { name: 'Person 9' })).getByRole('button', { name: 'Next person' }));
  expect(screen.getByRole('dialog', { name: 'Person 10' })).toBeTruthy();
});
test('of a thousand people those in sight are drawn, and all are counted', () => {
  const many = Array.from({ length: 1000 }, (_, n): Attempt => ({ ...(ATTEMPTS[n % 24] as Attempt), id: `m${n}`, name: `P ${n}` }));
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={['/']}>
        <Shown set={SET} sent={SET} attempts={many} source="d1" />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  const region = screen.getByRole('region', { name: 'Learners and items' });
  expect(within(region).getByRole('table').getAttribute('aria-rowcount')).toBe('1001');
  expect(within(region).queryAllByRole('rowheader').length).toBeLessThan(100);
});

test('groups: without a class where to make one; small ones side by side, with no word on their items', async () => {
  open('groups');
  expect(await screen.findByText(/Groups are classes/)).toBeTruthy();
  cleanup();
  classes.push({ id: 'c1', name: '8b', members: ATTEMPTS.slice(0, 12).map((a) => ({ name: a.name.toUpperCase(), mail: '', number: '' })) });
  open('groups');
  const scores = within(await screen.findByRole('region', { name: 'Scores of both groups' }));
  const cells = (r: HTMLElement): (string | null)[] => [...r.children].map((c) => c.textContent);
  expect(scores.getAllByRole('row').slice(1).map(cells)).toEqual([
    ['8b', '12', '2', '2', '0'],
    ['everybody else', '12', '2', '2', '0'],
  ]);
  const items = within(screen.getByRole('region', { name: 'Items in both groups' }))
    .getAllByRole('row')
    .slice(1)
    .map(cells);
  expect(items[0]).toEqual(['1', '0 %', '100 %']);
  expect(screen.getByText(/It takes 20 people in each group/).textContent).toContain('12 people and 12 people');
});
