/** Connecting to a service: OAuth 2.0 code flow (RFC 6749) with PKCE (RFC 7636), by what the service says of itself (RFC 8414). */
import type { Service } from '@zakuska/core';
import * as client from 'openid-client';
import { Problem } from '../platform/problem.js';
import { serviceUrl, settings } from '../platform/settings.js';

const CLIENT = 'zakuska';

export interface Tokens {
  accessToken: string;
  refreshToken?: string;
  /** Milliseconds since 1970. */
  expiresAt: number;
}

export const away = (service: Service): Problem =>
  new Problem(502, 'service-away', `The service “${service.name}” does not answer. Check that it runs, and try again.`);
export const ended = (service: Service): Problem =>
  new Problem(422, 'connection-ended', `The service “${service.name}” no longer knows this connection. Connect it again, then try again.`);

async function configuration(service: Service): Promise<client.Configuration> {
  const url = new URL(serviceUrl(service.id));
  const plain = url.protocol === 'http:' ? [client.allowInsecureRequests] : [];
  try {
    return await client.discovery(url, CLIENT, { token_endpoint_auth_method: 'none' }, client.None(), { algorithm: 'oauth2', execute: plain });
  } catch {
    throw away(service);
  }
}

const tokensOf = (t: client.TokenEndpointResponse, before?: Tokens): Tokens => {
  const refresh = t.refresh_token ?? before?.refreshToken;
  return { accessToken: t.access_token, ...(refresh && { refreshToken: refresh }), expiresAt: Date.now() + (t.expires_in ?? 3600) * 1000 };
};

export const redirectUri = (): string => `${settings().publicUrl}/api/v1/connections/callback`;

/** Address to send the person to, and the verifier to keep meanwhile. */
export async function begin(service: Service, state: string): Promise<{ url: string; verifier: string }> {
  const config = await configuration(service);
  const verifier = client.randomPKCECodeVerifier();
  const url = client.buildAuthorizationUrl(config, {
    redirect_uri: redirectUri(),
    scope: service.scope,
    state,
    code_challenge: await client.calculatePKCECodeChallenge(verifier),
    code_challenge_method: 'S256',
  });
  return { url: url.href, verifier };
}

/** What the service gave for the code that came back. */
export async function finish(service: Service, currentUrl: URL, state: string, verifier: string): Promise<Tokens> {
  return tokensOf(await client.authorizationCodeGrant(await configuration(service), currentUrl, { expectedState: state, pkceCodeVerifier: verifier }));
}

/** New tokens for old. @throws Problem `connection-ended` where the service refuses, `service-away` where it does not answer */
export async function renew(service: Service, tokens: Tokens): Promise<Tokens> {
  if (!tokens.refreshToken) throw ended(service);
  const config = await configuration(service);
  try {
    return tokensOf(await client.refreshTokenGrant(config, tokens.refreshToken), tokens);
  } catch (e) {
    throw e instanceof client.ResponseBodyError ? ended(service) : away(service);
  }
}
