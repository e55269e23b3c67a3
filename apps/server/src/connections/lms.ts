/** The learning management system: OAuth 2.0 code flow with PKCE, then a QTI 2.1 package over HTTP. */
import { courseLmsProfile } from '@zakuska/core';
import * as client from 'openid-client';
import { Problem } from '../platform/problem.js';
import { settings } from '../platform/settings.js';
import { heavy } from './heavy.js';
import type { Adapter, Receipt, Tokens } from './adapter.js';

const CLIENT = 'zakuska';

async function configuration(): Promise<client.Configuration> {
  const url = new URL(settings().lmsUrl);
  const plain = url.protocol === 'http:' ? [client.allowInsecureRequests] : [];
  try {
    return await client.discovery(url, CLIENT, { token_endpoint_auth_method: 'none' }, client.None(), { algorithm: 'oauth2', execute: plain });
  } catch {
    throw new Problem(502, 'service-away', 'The course LMS does not answer. Check that it runs, and try again.');
  }
}

const tokensOf = (t: client.TokenEndpointResponse, before?: Tokens): Tokens => {
  const refresh = t.refresh_token ?? before?.refreshToken;
  return { accessToken: t.access_token, ...(refresh && { refreshToken: refresh }), expiresAt: Date.now() + (t.expires_in ?? 3600) * 1000 };
};

async function call(tokens: Tokens, path: string, init: RequestInit = {}): Promise<Response> {
  const res = await fetch(settings().lmsUrl + path, {
    ...init,
    headers: { ...(init.headers as Record<string, string>), authorization: `Bearer ${tokens.accessToken}` },
    signal: AbortSignal.timeout(60_000),
  });
  if (res.status === 401) throw new Problem(401, 'connection-ended', 'The course LMS no longer knows this connection. Connect again.');
  return res;
}

export const lms: Adapter = {
  id: 'lms',
  name: 'Course LMS',
  what: 'QTI 2.1 package, as a new quiz',

  async begin(redirectUri, state) {
    const config = await configuration();
    const verifier = client.randomPKCECodeVerifier();
    const url = client.buildAuthorizationUrl(config, {
      redirect_uri: redirectUri,
      scope: 'quizzes',
      state,
      code_challenge: await client.calculatePKCECodeChallenge(verifier),
      code_challenge_method: 'S256',
    });
    return { url: url.href, verifier };
  },

  async finish(currentUrl, state, verifier) {
    const answer = await client.authorizationCodeGrant(await configuration(), currentUrl, { expectedState: state, pkceCodeVerifier: verifier });
    const tokens = tokensOf(answer);
    const who = (await (await call(tokens, '/api/me')).json()) as { name: string };
    return { tokens, accountName: who.name };
  },

  async refresh(tokens) {
    if (!tokens.refreshToken) return tokens;
    return tokensOf(await client.refreshTokenGrant(await configuration(), tokens.refreshToken), tokens);
  },

  profile: courseLmsProfile,

  async push(tokens, set, idempotencyKey, step) {
    await step('Writing the QTI 2.1 package');
    const { bytes, name } = await heavy('package', { service: 'lms', set });
    await step(`Sending ${Math.ceil(bytes.length / 1024)} kB`);
    const res = await call(tokens, '/api/imports', {
      method: 'POST',
      headers: { 'content-type': 'application/zip', 'idempotency-key': idempotencyKey, 'x-file-name': encodeURIComponent(name) },
      body: Buffer.from(bytes),
    });
    await step('Reading the import report');
    const body = (await res.json()) as { detail?: string } & Receipt;
    if (!res.ok) throw new Problem(422, 'refused', `The course LMS refused the package: ${body.detail ?? res.statusText}`);
    return { id: body.id, link: body.link, title: body.title, items: body.items };
  },

  async readBack(tokens, receipt) {
    const res = await call(tokens, `/api/quizzes/${encodeURIComponent(receipt.id)}/package`);
    if (!res.ok) throw new Problem(502, 'service-away', 'The course LMS did not give back what it keeps.');
    return new Uint8Array(await res.arrayBuffer());
  },
};
