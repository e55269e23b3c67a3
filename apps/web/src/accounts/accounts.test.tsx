/** @jest-environment ./src/testing/environment.mjs */
/** Members and accounts: what was pasted as addresses, whom one may change, what is asked before somebody goes; codes at the sign-in. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { addressesIn, browserWords } from './memberWords.js';

class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}
const sent: [string, string, unknown][] = [];
const MEMBERS = [
  { id: 'me', name: 'M. Okafor', email: 'm@saltmarsh.example', role: 'administrator' },
  { id: 'boss', name: 'B. Owner', email: 'b@saltmarsh.example', role: 'owner' },
  { id: 'ed', name: 'E. Ditor', email: 'e@saltmarsh.example', role: 'editor' },
];
let open: object[] = [];
let mailed = true;
let ways: object = {};
const EVENT = { id: '2', at: '2026-11-30T10:00:00Z', by: '', what: 'quiz published', about: { quiz: 'Rye' } };
/** What the sign-in says, one after the other. */
let answers: (ApiError | object)[] = [];
jest.unstable_mockModule('../api/client.js', () => ({
  ApiError,
  wordsOf: (e: Error) => e.message,
  setCsrf: () => undefined,
  call: async (r: unknown) => {
    const it = await r;
    if (it instanceof ApiError) throw it;
    return it;
  },
  api: {
    GET: async (path: string, { params }: { params?: { query?: { before?: string } } } = {}) => {
      if (path.endsWith('/members')) return MEMBERS;
      if (path.endsWith('/invitations')) return open;
      if (path.endsWith('/audit')) {
        sent.push(['GET', path, params?.query]);
        return params?.query?.before ? { events: [{ ...EVENT, id: '1', about: { quiz: 'Oats' } }] } : { events: [EVENT], next: '2' };
      }
      if (path.endsWith('/ways')) return ways;
      return {};
    },
    POST: async (path: string, { body }: { body: { emails?: string[] } }) => {
      sent.push(['POST', path, body]);
      if (path === '/api/v1/session') return answers.shift();
      return { mailed, invited: (body.emails ?? []).map((email) => ({ email, ...(email !== 'e@saltmarsh.example' && { link: `http://x/link/${email}` }) })) };
    },
    PUT: async (path: string, { params, body }: { params: { path: object }; body: object }) => void sent.push(['PUT', path, { ...params.path, ...body }]),
    DELETE: async (path: string, { params }: { params: object }) => void sent.push(['DELETE', path, params]),
  },
}));
jest.unstable_mockModule('../signin/session.js', () => ({ useSession: () => ({ accountId: 'me', workspaces: [] }) }));
jest.unstable_mockModule('../frame/Frame.js', () => ({ Busy: () => null }));
const { Members } = await import('./Members.js');
const { AuditLog } = await import('./AuditLog.js');
const { SignIn, SignInForm } = await import('../signin/SignIn.js');

afterEach(() => {
  cleanup();
  sent.splice(0);
  open = [];
});
function show(what: ReactNode) {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>{what}</MemoryRouter>
    </QueryClientProvider>,
  );
  return userEvent.setup();
}
const workspace = { id: 'w', name: 'School', role: 'administrator' as const };

describe('addresses in what was pasted', () => {
  test.each([
    ['Ada Brook <ada@saltmarsh.example>, "Noor, P." <NOOR@saltmarsh.example>', ['ada@saltmarsh.example', 'noor@saltmarsh.example'], []],
    ['ada@saltmarsh.example\tAda\nnoor@saltmarsh.example\tNoor', ['ada@saltmarsh.example', 'noor@saltmarsh.example'], []],
    ['mailto:ada@saltmarsh.example; ada@saltmarsh.example.', ['ada@saltmarsh.example'], []],
    ['ada@, @saltmarsh, ada@localhost', [], ['ada@', '@saltmarsh', 'ada@localhost']],
    ['nothing at all', [], []],
  ])('%s', (text, addresses, others) => expect(addressesIn(text)).toEqual({ addresses, others }));
});

// the forms of the header are from memory (RFC 9110, 10.1.5 says only that it names products)
test.each([
  ['Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0', 'Firefox on Linux'],
  ['Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36 Edg/140.0.0.0', 'Edge on Windows'],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.0 Mobile/15E148 Safari/604.1',
    'Safari on iPhone',
  ],
  ['Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Mobile Safari/537.36', 'Chrome on Android'],
  ['curl/8.0', 'curl/8.0'],
  ['', 'A browser that does not say its name'],
])('a browser is called by what it says: %s', (agent, words) => expect(browserWords(agent)).toBe(words));

describe('members', () => {
  test('an administrator gives roles up to their own, and changes no owner', async () => {
    const user = show(<Members workspace={workspace} />);
    const role = await screen.findByLabelText('Role of E. Ditor');
    expect(
      within(role)
        .getAllByRole('option')
        .map((o) => o.textContent),
    ).toEqual(['Reader', 'Marker', 'Editor', 'Administrator']);
    expect(screen.queryByLabelText('Role of B. Owner')).toBeNull();
    expect((screen.getByRole('button', { name: 'Remove B. Owner' }) as HTMLButtonElement).disabled).toBe(true);
    await user.selectOptions(role, 'Marker');
    expect(sent).toEqual([['PUT', '/api/v1/workspaces/{workspace}/members/{member}', { workspace: 'w', member: 'ed', role: 'marker' }]]);
  });

  test('who goes leaves sets to somebody who is chosen first', async () => {
    const user = show(<Members workspace={workspace} />);
    await user.click(await screen.findByRole('button', { name: 'Remove E. Ditor' }));
    const to = screen.getByLabelText<HTMLSelectElement>('Their sets and folders go to');
    expect(to.value).toBe('me');
    await user.selectOptions(to, 'B. Owner');
    await user.click(screen.getByRole('button', { name: 'Remove from the workspace' }));
    expect(sent).toEqual([['DELETE', '/api/v1/workspaces/{workspace}/members/{member}', { path: { workspace: 'w', member: 'ed' }, query: { to: 'boss' } }]]);
  });

  test('invitations: who is a member already is told; without mail the links are to hand over; one whose time is over gets a new one', async () => {
    open = [{ id: 'i1', email: 'late@saltmarsh.example', role: 'reader', by: 'M. Okafor', until: '2026-11-01T00:00:00Z', over: true }];
    mailed = false;
    const user = show(<Members workspace={workspace} />);
    expect(await screen.findByText('its time is over')).toBeTruthy();
    const invite = within(screen.getByRole('region', { name: 'Invite people' }));
    await user.type(invite.getByLabelText('Mail addresses'), 'e@saltmarsh.example, new@saltmarsh.example');
    await user.click(invite.getByRole('button', { name: 'Invite 2 people' }));
    const said = await screen.findByRole('status');
    expect(said.textContent).toContain('e@saltmarsh.example: a member already.');
    expect(said.textContent).toContain('hand the links over');
    expect(within(said).getAllByRole('button', { name: 'Copy the link' })).toHaveLength(1);
    await user.click(screen.getByRole('button', { name: 'New link for late@saltmarsh.example' }));
    await user.click(screen.getByRole('button', { name: 'Withdraw the invitation of late@saltmarsh.example' }));
    expect(sent.slice(1)).toEqual([
      ['POST', '/api/v1/workspaces/{workspace}/invitations', { id: expect.any(String), emails: ['late@saltmarsh.example'], role: 'reader' }],
      ['DELETE', '/api/v1/workspaces/{workspace}/invitations/{invitation}', { path: { workspace: 'w', invitation: 'i1' } }],
    ]);
  });
});

test('what happened is filtered, goes on page by page, and the table is of the same filter', async () => {
  const user = show(<AuditLog workspace={workspace} />);
  expect(await screen.findByText('nobody signed in')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Earlier' }));
  expect(await screen.findByText('Oats')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Earlier' })).toBeNull();
  await user.selectOptions(screen.getByLabelText('What'), 'quiz published');
  expect(sent.at(-1)?.[2]).toEqual({ what: 'quiz published' });
  expect(screen.getByRole('link', { name: 'As a table (CSV)' }).getAttribute('href')).toBe('/api/v1/workspaces/w/audit.csv?what=quiz+published');
});

test('a code is asked for only where the account has one, and a wrong one is told', async () => {
  const done = jest.fn();
  answers = [new ApiError(401, 'code-needed', 'Type the code'), new ApiError(401, 'wrong-code', 'This code is not right'), { csrf: 'c' }];
  const user = show(<SignInForm onDone={done} />);
  await user.type(screen.getByLabelText('Address'), 'a@saltmarsh.example');
  await user.type(screen.getByLabelText('Password'), 'pass word');
  expect(screen.queryByLabelText('Code')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  const code = await screen.findByLabelText('Code');
  expect(screen.queryByRole('alert')).toBeNull();
  await user.type(code, '000000');
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  expect((await screen.findByRole('alert')).textContent).toBe('This code is not right');
  await user.type(screen.getByLabelText('Code'), '123456');
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  expect(done).toHaveBeenCalledWith({ csrf: 'c' });
  expect(sent.at(-1)?.[2]).toEqual({ email: 'a@saltmarsh.example', password: 'pass word', code: '123456' });
});

test('the sign-in offers what there is: a link by mail, the school’s provider, and says why that did not let somebody in', async () => {
  ways = { signUp: true, forgotten: false, provider: 'Saltmarsh' };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={['/bank?refused=No%20account%20here']}>
        <SignIn onDone={() => undefined} />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  expect((await screen.findByRole('link', { name: 'Sign in with Saltmarsh' })).getAttribute('href')).toBe('/api/v1/session/provider?back=%2Fbank');
  expect(screen.getByRole('alert').textContent).toBe('No account here');
  expect(screen.queryByRole('button', { name: 'I forgot my password' })).toBeNull();
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: 'Make an account' }));
  await user.type(screen.getByLabelText('Address'), 'new@saltmarsh.example');
  await user.click(screen.getByRole('button', { name: 'Send the link' }));
  expect((await screen.findByRole('status')).textContent).toContain('Look into new@saltmarsh.example');
  expect(sent).toEqual([['POST', '/api/v1/links/sign-up', { email: 'new@saltmarsh.example' }]]);
});
