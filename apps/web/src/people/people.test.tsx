/** @jest-environment ./src/testing/environment.mjs */
/** What is kept of people: found, ticked off, deleted after a question; how long answers are kept is asked before anything goes. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { removedWords } from './recordWords.js';

const asked: { path: string; body: unknown }[] = [];
const records = [
  { kind: 'answers', id: 'a1', name: 'Ada Brook', mail: '', number: '', place: 'Rye (ABC)', at: '2026-11-03T10:00:00.000Z' },
  { kind: 'listed', id: 'm1', name: 'Ada Brook', mail: 'ada@saltmarsh.example', number: '12', place: 'Year 8', at: '2026-09-01T10:00:00.000Z' },
];
let kept: number | null = null;
let done: object[] = [];
jest.unstable_mockModule('../api/client.js', () => ({
  wordsOf: String,
  call: async (r: unknown) => r,
  api: {
    GET: (path: string, { params }: { params: { query?: { words: string } } }) =>
      path.endsWith('/people') ? (params.query?.words === 'Ada' ? records : []) : path.endsWith('/keeping') ? { months: kept } : done,
    POST: (path: string, { body }: { body: { records: object[] } }) => {
      asked.push({ path, body });
      done = [{ id: 'e1', at: '2026-11-30T10:00:00.000Z', by: 'M. Okafor', cause: 'asked', reference: '', removed: { answers: body.records.length } }];
      return done;
    },
    PUT: (path: string, { body }: { body: { months: number | null } }) => {
      asked.push({ path, body });
      kept = body.months;
      return body;
    },
  },
}));
let role = 'owner';
jest.unstable_mockModule('../signin/session.js', () => ({
  useSession: () => ({ name: 'M. Okafor', email: '', workspaces: [{ id: 'w', name: 'School', role }] }),
}));
jest.unstable_mockModule('../frame/Frame.js', () => ({ TopBar: ({ children }: { children: unknown }) => children, Busy: () => null }));
const { default: PeoplePage } = await import('./PeoplePage.js');

afterEach(() => {
  cleanup();
  asked.splice(0);
});
function open(at = '/people') {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={[at]}>
        <PeoplePage />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return userEvent.setup();
}

test('what is found is ticked; what is left out stays; what goes is said before it goes', async () => {
  const user = open();
  const find = screen.getByRole('button', { name: 'Find' });
  await user.type(screen.getByRole('searchbox'), ' A ');
  expect(find).toHaveProperty('disabled', true);
  await user.clear(screen.getByRole('searchbox'));
  await user.type(screen.getByRole('searchbox'), 'Nobody{Enter}');
  expect(await screen.findByText('Nothing is kept of “Nobody”.')).toBeTruthy();
  await user.clear(screen.getByRole('searchbox'));
  await user.type(screen.getByRole('searchbox'), 'Ada{Enter}');
  expect(await screen.findByText('2 of 2 records ticked')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'Ada Brook, on a class list, Year 8' }));
  await user.click(screen.getByRole('button', { name: /^Delete what is ticked/ }));
  const dialog = screen.getByRole('dialog', { name: 'Delete what is kept of Ada Brook?' });
  expect(dialog.textContent).toContain('1 attempt with its answers. This cannot be undone.');
  expect(asked).toEqual([]);
  await user.type(within(dialog).getByRole('textbox'), 'Letter');
  await user.click(within(dialog).getByRole('button', { name: 'Delete for good' }));
  expect(await within(await screen.findByRole('list', { name: 'Deletions' })).findByText('1 attempt with its answers')).toBeTruthy();
  expect(asked).toEqual([{ path: '/api/v1/workspaces/{workspace}/people/erase', body: { records: [{ kind: 'answers', id: 'a1' }], reference: 'Letter' } }]);
});

test('none ticked, nothing to delete; all at once and back', async () => {
  const user = open('/people?words=Ada');
  await user.click(await screen.findByRole('checkbox', { name: 'All of them' }));
  expect(screen.getByText('0 of 2 records ticked')).toBeTruthy();
  expect(screen.getByRole('button', { name: /^Delete what is ticked/ })).toHaveProperty('disabled', true);
  await user.click(screen.getByRole('checkbox', { name: 'All of them' }));
  expect(screen.getByText('2 of 2 records ticked')).toBeTruthy();
});

test('answers are kept for a shorter time only once it was said what that deletes', async () => {
  kept = null;
  const user = open();
  const choice = await screen.findByLabelText('Keep answers for');
  await user.selectOptions(choice, '6 months');
  expect(asked).toEqual([]);
  const dialog = screen.getByRole('dialog', { name: 'Keep answers for 6 months?' });
  await user.click(within(dialog).getByRole('button', { name: 'Cancel' }));
  expect(asked).toEqual([]);
  await user.selectOptions(choice, '1 year');
  await user.click(screen.getByRole('button', { name: 'Delete what is older' }));
  expect(await screen.findByText(/^1 year from when they were handed in/)).toBeTruthy();
  // longer deletes nothing, so it is not asked
  await user.selectOptions(screen.getByLabelText('Keep answers for'), '2 years');
  expect(await screen.findByText(/^2 years from when/)).toBeTruthy();
  expect(asked.map((a) => a.body)).toEqual([{ months: 12 }, { months: 24 }]);
});

test('who may edit sees how long, and does not set it; who may only read finds nobody', async () => {
  kept = 6;
  role = 'editor';
  open();
  expect(await screen.findByText(/^6 months from when/)).toBeTruthy();
  expect(screen.queryByLabelText('Keep answers for')).toBeNull();
  cleanup();
  role = 'reader';
  open('/people?words=Ada');
  expect(screen.queryByRole('searchbox')).toBeNull();
  expect(screen.getByText(/whoever may change them/)).toBeTruthy();
  role = 'owner';
});

test('how much went, in words', () => {
  expect(removedWords({ answers: 2, listed: 1, unknown: 4 })).toBe('2 attempts with their answers, 1 place on a class list');
  expect(removedWords({})).toBe('nothing');
});
