/** @jest-environment ./src/testing/environment.mjs */
/** Scores on their way to a gradebook: who is who is shown, doubtful ones are asked, and only what is due is sent. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

const SOURCE = '00000000-0000-4000-8000-000000000001';
let answers: Record<string, unknown> = {};
const sent: { scores: Record<string, number>; title: string }[] = [];
jest.unstable_mockModule('../api/client.js', () => ({
  api: {
    GET: async (path: string) => answers[path],
    POST: async (_: string, { body }: { body: (typeof sent)[number] }) => {
      sent.push(body);
      return { changed: Object.keys(body.scores).length, refused: [], gradebookTitle: 'Bread' };
    },
  },
  call: (x: unknown) => x,
  wordsOf: (e: Error) => e.message,
}));
jest.unstable_mockModule('../set/context.js', () => ({ useOpenSet: () => ({ view: { id: 's', workspaceId: 'w' } }) }));
const { SendScores } = await import('./SendScores.js');

const PEOPLE = ['Ada Brandt', 'Otto Finch', 'Zoë Halloran'].map((name, n) => ({ id: `p${n}`, name }));
beforeEach(() => {
  sent.length = 0;
  answers = {
    '/api/v1/workspaces/{workspace}/services': [{ service: 'lms', name: 'Course LMS', what: '', connectionId: 'c' }],
    '/api/v1/connections/{connection}/gradebooks': [{ id: 'bread', title: 'Bread', link: 'http://x.example/', people: PEOPLE }],
    '/api/v1/sets/{set}/grades': [],
  };
});
afterEach(cleanup);
const show = (attempts: { name: string; points: number }[]): void => {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={client}>
      <SendScores source={SOURCE} title="Week two" maximum={9} attempts={attempts} onClose={() => undefined} />
    </QueryClientProvider>,
  );
};
const chosen = (name: string): string => (screen.getByLabelText(`${name} in the gradebook`) as HTMLSelectElement).value;

test('the best of each goes; who is only likely or doubtful is told, who is doubtful is not sent unasked', async () => {
  const user = userEvent.setup();
  show([
    { name: 'Ada Brandt', points: 4 },
    { name: 'ada brandt', points: 7 },
    { name: 'Zoe', points: 5 },
    { name: 'Otto Fnich', points: 3 },
    { name: 'Nobody Known', points: 1 },
  ]);
  await screen.findByText('Handed in as');
  expect(chosen('ada brandt')).toBe('p0');
  expect(chosen('Zoe')).toBe('p2');
  expect(screen.getByText('by part of the name')).toBeTruthy();
  expect(chosen('Otto Fnich')).toBe('');
  expect(screen.getByText('please check')).toBeTruthy();
  expect(screen.getByText('2 without a person stay here', { exact: false })).toBeTruthy();
  await user.selectOptions(screen.getByLabelText('Otto Fnich in the gradebook'), 'Otto Finch');
  await user.click(screen.getByRole('button', { name: 'Send 3 scores' }));
  expect(sent).toMatchObject([{ title: 'Week two', scores: { p0: 7, p1: 3, p2: 5 } }]);
});

test('what stands there already is shown, and a person that is chosen twice stops it', async () => {
  const user = userEvent.setup();
  answers['/api/v1/sets/{set}/grades'] = [{ source: SOURCE, service: 'lms', gradebook: 'bread', title: 'Kept title', sent: { p0: 7, p1: 2 } }];
  show([
    { name: 'Ada Brandt', points: 7 },
    { name: 'Otto Finch', points: 3 },
  ]);
  await screen.findByText('Handed in as');
  const row = screen.getByRole('row', { name: /Otto Finch/ });
  expect(within(row).getByText('2')).toBeTruthy();
  expect((screen.getByLabelText('Column') as HTMLInputElement).value).toBe('Kept title');
  expect((screen.getByRole('button', { name: 'Send one score' }) as HTMLButtonElement).disabled).toBe(false);
  await user.selectOptions(screen.getByLabelText('Otto Finch in the gradebook'), 'Ada Brandt');
  expect(screen.getByText('one person is chosen twice', { exact: false })).toBeTruthy();
  expect((screen.getByRole('button', { name: /^Send/ }) as HTMLButtonElement).disabled).toBe(true);
});

test('without a gradebook it says what to do', async () => {
  answers['/api/v1/workspaces/{workspace}/services'] = [];
  show([{ name: 'Ada', points: 1 }]);
  expect(await screen.findByText(/Connect the course LMS on Deliver/)).toBeTruthy();
});
