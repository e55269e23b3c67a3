/** @jest-environment ./src/testing/environment.mjs */
/** Asking an assistant from a request: what it may need, what comes, what is refused; nothing where nobody may be asked. */
import '../testing/browser.js';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { OpenSetContext } from '../set/context.js';
import { answering, Refused } from '../testing/server.js';
import { AskAssistant } from './AskAssistant.js';

/** The line of events of what was asked, spoken by the test. */
class Line {
  static last: Line | undefined;
  readyState = 1;
  static readonly CLOSED = 2;
  onmessage?: (e: { data: string }) => void;
  onerror?: () => void;
  constructor(readonly url: string) {
    Line.last = this;
  }
  close(): void {
    this.readyState = 2;
  }
  say(piece: object): Promise<void> {
    return act(async () => this.onmessage?.({ data: JSON.stringify(piece) }));
  }
}
const ASSISTANT = {
  there: true,
  name: 'Galley',
  model: 'm',
  unit: 'tokens',
  currency: 'EUR',
  most: 1000,
  priceIn: 1,
  priceOut: 2,
  own: false,
  mine: { may: true, amount: 5000, used: 0, left: 5000 },
};
const asked = (more: object = {}): object => ({
  id: 'a',
  state: 'running',
  said: '',
  reply: '',
  tokensIn: 1,
  tokensOut: 1000,
  cost: 0.002,
  currency: 'EUR',
  estimated: true,
  ...more,
});

let end: () => void = () => undefined;
const events = globalThis.EventSource;
afterEach(() => {
  cleanup();
  end();
  globalThis.EventSource = events;
});
function shown(answers: Record<string, unknown>, more: object = {}): { replies: string[]; sent: ReturnType<typeof answering>['sent'] } {
  globalThis.EventSource = Line as never;
  const server = answering({ '/workspaces/w/assistant': ASSISTANT, ...answers });
  end = server.end;
  const replies: string[] = [];
  const session = { subscribe: () => () => undefined, get: () => SNAPSHOT };
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>
        <OpenSetContext value={{ view: { id: 's', workspaceId: 'w' }, session } as never}>
          <AskAssistant text="Write two items." blocked={false} purpose="draft" keep={async () => 'kept'} onReply={(r) => replies.push(r)} {...more} />
        </OpenSetContext>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { replies, sent: server.sent };
}
const SNAPSHOT = {};
const status = (): string => screen.getByRole('status').textContent ?? '';

test('what it may need stands there first; the reply is heard piece by piece, and what it took is said', async () => {
  const { replies, sent } = shown({ 'POST /sets/s/asks': asked() });
  await screen.findByRole('button', { name: 'Ask Galley' });
  expect(status()).toContain('It may need up to 1,004 tokens; you have 5,000 tokens left in this month.');
  await userEvent.click(screen.getByRole('button', { name: 'Ask Galley' }));
  expect(sent.find((s) => s.method === 'POST')?.body).toMatchObject({ purpose: 'draft', text: 'Write two items.', request: 'kept' });
  await screen.findByText(/Sent to Galley/);
  await Line.last?.say({ ...asked(), at: 0, reply: '1. Is salt ' });
  expect(status()).toContain('Galley writes: 4 words so far');
  await Line.last?.say({ ...asked(), at: 11, reply: 'a mineral?' });
  // after a line that was cut it begins anew
  await Line.last?.say({ ...asked(), at: 0, reply: '1. Is salt a mineral?' });
  await Line.last?.say({ ...asked({ state: 'done', estimated: false, tokensIn: 20, tokensOut: 30, cost: 0.0001 }), at: 21, reply: '\nAnswer: true' });
  expect(replies.at(-1)).toBe('1. Is salt a mineral?\nAnswer: true');
  expect(status()).toContain('The reply has come. 50 tokens, 0.0001 EUR');
  expect(Line.last?.readyState).toBe(2);
});

test('stopping, and what went wrong in its own words', async () => {
  const { sent } = shown({ 'POST /sets/s/asks': asked(), 'POST /asks/a/stop': () => null });
  await userEvent.click(await screen.findByRole('button', { name: 'Ask Galley' }));
  await userEvent.click(await screen.findByRole('button', { name: 'Stop' }));
  expect(sent.at(-1)?.path).toBe('/asks/a/stop');
  await Line.last?.say({ ...asked({ state: 'stopped', said: 'Stopped; what had come is kept.', tokensOut: 4 }), at: 0, reply: 'Half' });
  expect(status()).toContain('Stopped; what had come is kept. About 5 tokens');
});

test('what is refused is said, and nothing else changes', async () => {
  shown({ 'POST /sets/s/asks': new Refused(422, 'The request names somebody.') });
  await userEvent.click(await screen.findByRole('button', { name: 'Ask Galley' }));
  await screen.findByText('The request names somebody.');
  expect(screen.getByRole('button', { name: 'Ask Galley' })).toBeTruthy();
});

test('an allowance that does not hold it keeps the button shut; nobody to ask, nothing to see', async () => {
  shown({ '/workspaces/w/assistant': { ...ASSISTANT, mine: { may: true, amount: 500, used: 0, left: 500 } } });
  expect((await screen.findByRole('button', { name: 'Ask Galley' })).hasAttribute('disabled')).toBe(true);
  expect(status()).toContain('It may need 1,004 tokens, and you have 500 tokens left of 500 tokens in this month.');
  cleanup();
  end();
  const { sent } = shown({ '/workspaces/w/assistant': { ...ASSISTANT, mine: { may: false, amount: 0, used: 0, left: 0 } } });
  await act(async () => void (await new Promise((r) => setTimeout(r, 50))));
  expect(sent).toHaveLength(1);
  expect(screen.queryByRole('button')).toBeNull();
});
