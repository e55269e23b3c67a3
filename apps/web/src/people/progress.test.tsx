/** @jest-environment ./src/testing/environment.mjs */
/** A class over its quizzes: shares of the points, means of people and quizzes by hand, what was not handed in, the table to copy. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';

const copied: string[] = [];
let classes: object[] = [];
const VIEW = {
  quizzes: [
    { id: 'd1', set: 's1', title: 'Week one', at: '2026-11-03T10:00:00.000Z', maximum: 4 },
    { id: 'd2', set: 's2', title: 'Week two', at: '2026-11-10T10:00:00.000Z', maximum: 10 },
  ],
  people: [
    { id: 'a', name: 'Ada', points: [4, 5] },
    { id: 'b', name: 'Ben', points: [null, 2] },
    { id: 'c', name: 'Cy', points: [null, null] },
  ],
};
let view: object = VIEW;
jest.unstable_mockModule('../ui/copyText.js', () => ({ copyText: (text: string) => copied.push(text) }));
jest.unstable_mockModule('../api/client.js', () => ({
  wordsOf: String,
  call: async (r: unknown) => r,
  api: { GET: (path: string) => (path.endsWith('/classes') ? classes : view) },
}));
jest.unstable_mockModule('../signin/session.js', () => ({ useSession: () => ({ workspaces: [{ id: 'w', name: 'School', role: 'editor' }] }) }));
jest.unstable_mockModule('../frame/Frame.js', () => ({
  TopBar: ({ children }: { children: unknown }) => children,
  Busy: () => null,
  Empty: ({ title }: { title: string }) => title,
}));
const { default: ProgressPage } = await import('./ProgressPage.js');

afterEach(cleanup);
const open = () =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <ProgressPage />
      </MemoryRouter>
    </QueryClientProvider>,
  );

test('shares, and means of who handed in', async () => {
  classes = [{ id: 'c1', name: 'Year 8', people: 3 }];
  open();
  const table = within(await screen.findByRole('table'));
  const cells = (row: HTMLElement): (string | null)[] =>
    within(row)
      .getAllByRole('cell')
      .map((c) => c.textContent);
  const [ada, ben, cy, all] = table.getAllByRole('row').slice(1) as [HTMLElement, HTMLElement, HTMLElement, HTMLElement];
  expect(cells(ada)).toEqual(['100 %', '50 %', '75 %', '']);
  expect(cells(ben)).toEqual(['–not handed in', '20 %', '20 %', '']);
  expect(cells(cy)).toEqual(['–not handed in', '–not handed in', '–', '']);
  expect(cells(all)).toEqual(['100 %', '35 %', '', '']);
  // a line takes two quizzes
  expect(ada.querySelectorAll('svg')).toHaveLength(1);
  expect(ben.querySelectorAll('svg')).toHaveLength(0);
  expect(table.getByRole('link', { name: 'Week two' }).getAttribute('href')).toBe('/sets/s2/results?of=d2');
  await userEvent.click(screen.getByRole('button', { name: 'Copy the table' }));
  expect(copied[0]).toBe('Name\tWeek one\tWeek two\tMean, per cent\nAda\t100\t50\t75\nBen\t\t20\t20\nCy\t\t\t');
});

test('no class, and a class that has handed in nothing', async () => {
  classes = [];
  open();
  expect(await screen.findByText('No class yet')).toBeTruthy();
  cleanup();
  classes = [{ id: 'c1', name: 'Year 8', people: 3 }];
  view = { quizzes: [], people: VIEW.people.map((p) => ({ ...p, points: [] })) };
  open();
  expect(await screen.findByText(/Nobody of this class has handed in/)).toBeTruthy();
});
