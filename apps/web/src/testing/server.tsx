/** A server that answers what a test says, and a page around what is shown: for components that fetch and send. */
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import type { SessionView } from '../api/client.js';
import { SessionContext } from '../signin/session.js';

/** A request that was sent. */
export interface Sent {
  method: string;
  path: string;
  query: string;
  body: unknown;
}
type Answer = unknown | ((sent: Sent) => unknown);

/** An answer that refuses. */
export class Refused {
  constructor(
    readonly status: number,
    readonly detail: string,
  ) {}
}

/**
 * Answers requests by "METHOD /path" (ids in the path as they are), or by the path alone for GET; what is not said is 404.
 * @returns what was sent, the last last, and the way to end it
 */
export function answering(answers: Record<string, Answer>): { sent: Sent[]; end: () => void } {
  const before = globalThis.fetch;
  const sent: Sent[] = [];
  globalThis.fetch = async (input) => {
    const request = input as Request;
    const url = new URL(request.url);
    const path = url.pathname.replace('/api/v1', '');
    const text = request.method === 'GET' ? '' : await request.text();
    const one: Sent = { method: request.method, path, query: url.search.slice(1), body: text ? (JSON.parse(text) as unknown) : undefined };
    sent.push(one);
    const said = answers[`${request.method} ${path}`] ?? (request.method === 'GET' ? answers[path] : undefined);
    const answer = typeof said === 'function' ? (said as (s: Sent) => unknown)(one) : said;
    const [status, body] =
      answer instanceof Refused
        ? [answer.status, { detail: answer.detail, code: 'refused' }]
        : said === undefined
          ? [404, { detail: `nothing at ${path}`, code: 'not-found' }]
          : [200, answer];
    return body === null
      ? new Response(null, { status: 204 })
      : new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
  };
  return { sent, end: () => void (globalThis.fetch = before) };
}

/** Who is signed in, in tests: owner of the workspace `w`. */
export const somebody: SessionView = {
  accountId: 'me',
  name: 'M. Tester',
  email: 'me@x.test',
  csrf: 'c',
  workspaces: [{ id: 'w', name: 'School', role: 'owner' }],
  searchAddress: '',
  maxUploadBytes: 1_000_000,
};

/** Shows something on a page of somebody signed in. */
export function show(what: ReactNode, { at = '/', session = somebody }: { at?: string; session?: SessionView } = {}): void {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false }, mutations: { retry: false } } });
  render(
    <MemoryRouter initialEntries={[at]}>
      <QueryClientProvider client={client}>
        <SessionContext value={session}>{what}</SessionContext>
      </QueryClientProvider>
    </MemoryRouter>,
  );
}
