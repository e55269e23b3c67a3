/** @jest-environment ./src/testing/environment.mjs */
/** Marking on the screen: what is decided waits, tells what it changes, is sent once, and can be taken back; essays by keys. */
import '../../testing/browser.js';
import { jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { type Decision, handsOf, judgedMarks, judgingOf, pointsOf, type QuizSet, type Response } from '@zakuska/core';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';

const SET = {
  title: 'Dough',
  items: [
    { id: 'colour', kind: 'short-answer', stem: 'What fades?', points: 1, answers: [{ text: 'colour', credit: 1 }], match: { spelling: 0 } },
    {
      id: 'choice',
      kind: 'multiple-choice',
      stem: 'Which is a grain?',
      points: 1,
      options: [
        { id: 'a', content: 'rye', credit: 1 },
        { id: 'b', content: 'cod', credit: 0 },
      ],
    },
    { id: 'essay', kind: 'essay', stem: 'Why rest the dough?', points: 3, rubric: 'It relaxes (2 points); own words (1 point)' },
  ],
} as unknown as QuizSet;
const PEOPLE: [string, Record<string, Response>][] = [
  ['Ada', { colour: { text: 'color' }, choice: { options: ['a'] }, essay: { text: 'It relaxes.' } }],
  ['Ben', { colour: { text: 'Color' }, choice: { options: ['b'] }, essay: { text: 'So.' } }],
  ['Cy', { colour: { text: 'colour' } }],
];

/** What a server would keep. */
let kept: { id: string; decision: Decision; at: string; by: string; takenBack?: { at: string; by: string } }[];
let refuse = false;
beforeEach(() => {
  kept = [];
  refuse = false;
  sessionStorage.clear();
});
afterEach(cleanup);
const AT = '2026-11-02T09:00:00Z';
jest.unstable_mockModule('../../signin/session.js', () => ({ useSession: () => ({ name: 'L. Brandt' }) }));
jest.unstable_mockModule('../../set/context.js', () => ({ useOpenSet: () => ({ view: { id: 's1', role: 'marker' } }) }));
jest.unstable_mockModule('../sources.js', () => {
  const holding = (list: typeof kept): Decision[] => list.flatMap((k) => (k.takenBack ? [] : [k.decision]));
  return {
    holding,
    useSources: () => ({ list: [{ id: 'd1', name: 'Quiz', responses: 3, link: '', version: '' }], error: null, again: () => undefined }),
    resultsQuery: () => ({
      queryKey: ['results', 'd1'],
      queryFn: () => {
        const judging = judgingOf(SET, holding(kept));
        const hands = handsOf(holding(kept));
        const attempts = PEOPLE.map(([name, responses]) => {
          const marks = judgedMarks(judging, responses, hands.get(name));
          return { id: name, name, attempt: 1, startedAt: AT, submittedAt: AT, points: pointsOf(marks), marks, responses };
        });
        return Promise.resolve({ sent: SET, set: judging.set, decisions: [...kept], attempts, underWay: 0, otherwise: 0 });
      },
    }),
    decide: (_: unknown, decisions: Decision[]) => {
      if (refuse) return Promise.reject(new Error('The server is away.'));
      kept.push(...decisions.map((decision, n) => ({ id: `k${kept.length + n}`, decision, at: AT, by: 'M. Okafor' })));
      return Promise.resolve();
    },
    takeBack: (_: unknown, ids: string[]) => {
      kept = kept.map((k) => (ids.includes(k.id) ? { ...k, takenBack: { at: AT, by: 'M. Okafor' } } : k));
      return Promise.resolve();
    },
  };
});
const { default: MarkingStage } = await import('./MarkingStage.js');

async function open(address = '/?of=d1&item=colour') {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[address]}>
        <MarkingStage />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  await screen.findByRole('navigation', { name: 'Items' });
  return userEvent.setup();
}
const rows = (): string[] =>
  within(screen.getByRole('region', { name: 'Answers' }))
    .getAllByRole('row')
    .slice(1)
    .map((r) => {
      const on = within(r).getAllByRole('button', { pressed: true });
      return `${r.querySelector('td div')?.textContent} ×${r.querySelector('td:nth-child(2)')?.textContent}: ${on[0]?.textContent}`;
    });
const staged = (): string => within(screen.getByRole('region', { name: 'About to be decided' })).getByRole('status').textContent ?? '';

test('a key press decides for all who wrote the same; it says for whom before it is done, and can be taken back', async () => {
  const user = await open();
  expect(rows()).toEqual(['color ×2: 0', 'colour ×1: 1']);
  await user.keyboard('1');
  // the rows stay where they are while points are given
  expect(rows()).toEqual(['color ×2: 1', 'colour ×1: 1']);
  // two of three people have one point more
  expect(staged()).toBe('1 decision: 2 people get other points, the mean changes by +0.67.');
  await user.click(screen.getByRole('button', { name: 'Show who' }));
  expect(
    within(screen.getByRole('region', { name: 'About to be decided' }))
      .getAllByRole('listitem')
      .map((l) => l.textContent),
  ).toEqual(['Ada: 1 → 2', 'Ben: 0 → 1']);
  expect(kept).toEqual([]);
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(screen.queryByRole('region', { name: 'About to be decided' })).toBeNull());
  expect(kept.map((k) => k.decision)).toEqual([{ type: 'answer', item: 'colour', text: 'color', credit: 1 }]);
  await user.click(screen.getByRole('button', { name: 'What was decided (1)' }));
  expect(screen.getByText('“color” counts in item 1')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Take back' }));
  await screen.findByText(/taken back by M. Okafor/);
  await user.click(screen.getByRole('button', { name: 'Back to the answers' }));
  await waitFor(() => expect(rows()).toEqual(['color ×2: 0', 'colour ×1: 1']));
});

test('the rule that would do it, with how many it would help; the last decision can be taken away', async () => {
  const user = await open();
  const rule = screen.getByRole('region', { name: 'Rules that would do it' });
  expect(rule.textContent).toContain('One letter differs. 2 people would have more points.');
  await user.click(within(rule).getByRole('button', { name: 'Allow one letter to differ' }));
  expect(rows()).toEqual(['color ×2: 1', 'colour ×1: 1']);
  await user.keyboard('u');
  expect(screen.queryByRole('region', { name: 'About to be decided' })).toBeNull();
});

test('what waits is there after a reload; what is refused stays and is tried again', async () => {
  const user = await open('/?of=d1&item=choice');
  await user.click(within(screen.getByRole('group', { name: 'Points for “cod”' })).getByRole('button', { name: '1 of 1' }));
  expect(staged()).toContain('1 person gets other points');
  cleanup();
  const again = await open('/?of=d1&item=choice');
  refuse = true;
  await again.click(screen.getByRole('button', { name: 'Mark all anew' }));
  expect(staged()).toContain('1 decision');
  refuse = false;
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Mark all anew' }).disabled).toBe(false));
  await again.click(screen.getByRole('button', { name: 'Mark all anew' }));
  await waitFor(() => expect(kept.map((k) => k.decision)).toEqual([{ type: 'answer', item: 'choice', text: 'b', credit: 1 }]));
});

test('an item is left out for everybody, and is there again', async () => {
  const user = await open();
  await user.click(screen.getByRole('button', { name: 'Leave this item out' }));
  expect(staged()).toBe('1 decision: 1 person gets other points, the mean changes by −0.33.');
  await user.click(screen.getByRole('button', { name: 'Mark all anew' }));
  expect(await screen.findByText('Left out for everybody')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Take back' }));
  expect(await screen.findByRole('button', { name: 'Leave this item out' })).toBeTruthy();
});

test('essays by keys: points for each criterion, a comment, on to the next that is open; comments are offered again', async () => {
  const user = await open('/?of=d1&item=essay');
  expect(screen.getByRole('heading', { name: 'Ada' })).toBeTruthy();
  expect(screen.getByText('1 of 2, 2 to mark')).toBeTruthy();
  await user.keyboard('21c');
  await user.keyboard('Good.');
  await user.keyboard('{Control>}{Enter}{/Control}');
  await screen.findByRole('heading', { name: 'Ben' });
  await waitFor(() =>
    expect(kept.map((k) => k.decision)).toEqual([{ type: 'hand', item: 'essay', attempt: 'Ada', points: 3, criteria: [2, 1], comment: 'Good.' }]),
  );
  await user.click(await screen.findByRole('button', { name: 'Good.' }));
  // points of one's own, beside the criteria
  await user.clear(screen.getByLabelText('Points, of 3'));
  await user.type(screen.getByLabelText('Points, of 3'), '1,5');
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(kept[1]?.decision).toEqual({ type: 'hand', item: 'essay', attempt: 'Ben', points: 1.5, comment: 'Good.' }));
  expect(await screen.findByText('2 of 2, all are marked')).toBeTruthy();
});

test('more points than there are are not kept; names can be hidden', async () => {
  const user = await open('/?of=d1&item=essay');
  await user.type(screen.getByLabelText('Points, of 3'), '4');
  expect(screen.getByRole('alert').textContent).toBe('At most 3.');
  await user.click(screen.getByRole('button', { name: /^Keep/ }));
  expect(kept).toEqual([]);
  await user.click(screen.getByRole('checkbox', { name: 'Hide names' }));
  expect(screen.getByRole('heading', { name: 'Answer 1' })).toBeTruthy();
  expect(screen.queryByText('Ada')).toBeNull();
});

test('a second marker does not see the marks of the first; how far they agree, and where a third has to decide', async () => {
  for (const [attempt, points] of [
    ['Ada', 3],
    ['Ben', 1],
  ] as const)
    kept.push({ id: `m${attempt}`, decision: { type: 'hand', item: 'essay', attempt, points }, at: AT, by: 'M. Okafor' });
  // what is kept now is of the other one
  const user = await open('/?of=d1&item=essay');
  expect(screen.getByText('1 of 2, all are marked')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: /Mark on my own/ }));
  expect(screen.getByText('1 of 2, 2 to mark')).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>('Points, of 3').value).toBe('');
  kept.push(
    { id: 'b1', decision: { type: 'hand', item: 'essay', attempt: 'Ada', points: 3 }, at: AT, by: 'L. Brandt' },
    { id: 'b2', decision: { type: 'hand', item: 'essay', attempt: 'Ben', points: 2 }, at: AT, by: 'L. Brandt' },
  );
  cleanup();
  const again = await open('/?of=d1&item=essay');
  await again.click(screen.getByRole('button', { name: 'What was decided (4)' }));
  const pair = screen.getByRole('region', { name: 'L. Brandt and M. Okafor' });
  expect(pair.textContent).toContain('The same points for 1 (50 %).');
  // Brandt 3 and 2, Okafor 3 and 1
  expect(pair.textContent).toContain('L. Brandt gives 0.5 more on average.');
  expect(
    within(pair)
      .getAllByRole('listitem')
      .map((l) => l.textContent),
  ).toEqual(['Ben, item 3: 2 and 1']);
  await again.click(within(pair).getByRole('link', { name: 'Ben, item 3' }));
  expect(await screen.findByRole('heading', { name: 'Ben' })).toBeTruthy();
});
