/** The server, through types generated from its OpenAPI document. */
import createClient from 'openapi-fetch';
import { retold } from '../words/retold.js';
import { language, say } from '../words/say.js';
import type { components, paths } from './generated.js';

export type Schemas = components['schemas'];
export type SessionView = Schemas['SessionView'];
export type SetSummary = Schemas['SetSummary'];
export type DeliveryView = Schemas['DeliveryView'];
export type ServiceView = Schemas['ServiceView'];

/** An answer of the server that is no success, or no answer at all (status 0). */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly body: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

const offline = (): ApiError => new ApiError(0, 'offline', say('The server cannot be reached. What you do is kept here and sent when it is back.'));

let csrf = '';
export const setCsrf = (token: string): void => {
  csrf = token;
};

/** Told whenever the server says that nobody is signed in. */
export const signedOut = new EventTarget();

export const api = createClient<paths>({
  baseUrl: globalThis.location?.origin ?? 'http://127.0.0.1',
  credentials: 'same-origin',
  fetch: (request) => globalThis.fetch(request),
});
api.use({
  onRequest({ request }) {
    if (!/^(GET|HEAD)$/.test(request.method)) request.headers.set('x-csrf-token', csrf);
    // what it sends to people, it writes as they are spoken to here
    request.headers.set('accept-language', language());
    return request;
  },
});

/**
 * Waits for a call and gives its data.
 * @throws ApiError with the server's own words where it refused, or with plain ones where it could not be reached
 */
export async function call<T>(promise: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let r: { data?: T; error?: unknown; response: Response };
  try {
    r = await promise;
  } catch {
    throw offline();
  }
  if (r.response.ok) return r.data as T;
  const body = (r.error && typeof r.error === 'object' ? r.error : {}) as Record<string, unknown>;
  const status = r.response.status;
  if (status === 401 && body['code'] === 'signed-out') signedOut.dispatchEvent(new Event('signed-out'));
  if (status >= 502 && !body['code']) throw offline();
  throw new ApiError(status, String(body['code'] ?? `http-${status}`), String(body['detail'] ?? say('Something went wrong.')), body);
}

/**
 * Waits for a call that named what is known already in `if-none-match`, and gives its data with the name for the next time; null where
 * nothing is new.
 * @throws ApiError as `call` does
 */
export async function callUnlessSame<T>(promise: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<{ data: T; tag: string } | null> {
  const whole = promise.then((r) => (r.response.status === 304 ? { response: new Response(null, { status: 204 }) } : r));
  const data = (await call(whole)) as T | undefined;
  return data === undefined ? null : { data, tag: (await promise).response.headers.get('etag') ?? '' };
}

/** The words of an error for a person, in their language: the server and the core refuse in English. */
export const wordsOf = (e: unknown): string => (e instanceof Error ? retold(e.message) : say('Something went wrong.'));
