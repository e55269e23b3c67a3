/**
 * OAuth 2.0 of a stand-in: code flow (RFC 6749) with PKCE (RFC 7636), server metadata (RFC 8414), refresh, revocation (RFC 7009).
 * All field names are the standards'.
 */
import { createHash, randomBytes } from 'node:crypto';
import express, { type NextFunction, type Request, type RequestHandler, type Response } from 'express';
import type { Database } from './database.js';
import { escape, one, type Page } from './pages.js';

const HOUR = 3600;
const token = (): string => randomBytes(24).toString('base64url');

/** Codes and tokens, in the tables of one stand-in. */
export class Tokens {
  constructor(
    private readonly db: Database,
    private readonly schema: string,
  ) {}
  async open(): Promise<void> {
    await this.db.rows(`
      create schema if not exists ${this.schema};
      create table if not exists ${this.schema}.grant_code (code text primary key, account text not null, redirect_uri text not null, challenge text not null, expires_at timestamptz not null);
      create table if not exists ${this.schema}.token (token text primary key, kind text not null, account text not null, expires_at timestamptz not null);
    `);
  }
  async keepCode(code: string, account: string, redirectUri: string, challenge: string): Promise<void> {
    await this.db.rows(`insert into ${this.schema}.grant_code values ($1, $2, $3, $4, now() + interval '2 minutes')`, [code, account, redirectUri, challenge]);
  }
  /** A code works once. */
  async takeCode(code: string): Promise<{ account: string; redirect_uri: string; challenge: string } | undefined> {
    const [row] = await this.db.rows<{ account: string; redirect_uri: string; challenge: string }>(
      `delete from ${this.schema}.grant_code where code = $1 and expires_at > now() returning account, redirect_uri, challenge`,
      [code],
    );
    return row;
  }
  async keep(value: string, kind: 'access' | 'refresh', account: string, seconds: number): Promise<void> {
    await this.db.rows(`insert into ${this.schema}.token values ($1, $2, $3, now() + ($4 * interval '1 second'))`, [value, kind, account, seconds]);
  }
  async accountOf(value: string, kind: 'access' | 'refresh'): Promise<string | undefined> {
    const [row] = await this.db.rows<{ account: string }>(`select account from ${this.schema}.token where token = $1 and kind = $2 and expires_at > now()`, [
      value,
      kind,
    ]);
    return row?.account;
  }
  /** Ends a token; of an account, all its tokens. */
  async end(value: string): Promise<void> {
    await this.db.rows(`delete from ${this.schema}.token where account = (select account from ${this.schema}.token where token = $1)`, [value]);
  }
  /** Lets tokens of a kind run out now: of all accounts. */
  async runOut(kind: 'access' | 'refresh'): Promise<void> {
    await this.db.rows(`update ${this.schema}.token set expires_at = now() where kind = $1`, [kind]);
  }
}

export interface OAuthOptions {
  publicUrl: string;
  /** User name → password and the name that is shown. */
  accounts: Readonly<Record<string, { password: string; name: string; hint: string }>>;
  scope: string;
  /** What is asked for, as a sentence for the person who allows it. */
  asks: string;
  page: Page;
  tokens: Tokens;
}

/** The account that `signedIn` found. */
export const accountOf = (r: Response): string => String(r.locals['account']);

/**
 * Lets in who brings an access token.
 * @returns a handler that answers 401 to all others (RFC 6750)
 */
export const signedIn =
  (tokens: Tokens): RequestHandler =>
  async (q: Request, r: Response, next: NextFunction): Promise<void> => {
    const account = await tokens.accountOf(/^Bearer (.+)$/.exec(q.headers.authorization ?? '')?.[1] ?? '', 'access');
    if (!account) return void r.status(401).setHeader('www-authenticate', 'Bearer').json({ detail: 'The access token is not known or has run out.' });
    r.locals['account'] = account;
    next();
  };

/** The routes of the authorization server. */
export function oauth({ publicUrl, accounts, scope, asks, page, tokens }: OAuthOptions): express.Router {
  const routes = express.Router();
  const form = express.urlencoded({ extended: false, limit: '100kb' });
  routes.get(
    '/.well-known/oauth-authorization-server',
    (_q, r) =>
      void r.json({
        issuer: publicUrl,
        authorization_endpoint: `${publicUrl}/authorize`,
        token_endpoint: `${publicUrl}/token`,
        revocation_endpoint: `${publicUrl}/revoke`,
        response_types_supported: ['code'],
        grant_types_supported: ['authorization_code', 'refresh_token'],
        code_challenge_methods_supported: ['S256'],
        token_endpoint_auth_methods_supported: ['none'],
        scopes_supported: [scope],
      }),
  );

  const FIELDS = ['client_id', 'redirect_uri', 'state', 'code_challenge', 'scope'] as const;
  const hints = Object.values(accounts).map((a) => a.hint);
  const connectPage = (values: Record<string, unknown>, problem = ''): string =>
    page(
      'Connect Zakuska',
      `
    <p>${asks}</p>${problem ? `<p class="error" role="alert">${problem}</p>` : ''}
    <form method="post" action="/authorize">${FIELDS.map((f) => `<input type="hidden" name="${f}" value="${escape(one(values[f]))}">`).join('')}
    <p><label>User name <input name="user" autocomplete="username" required></label></p><p><label>Password <input name="password" type="password" autocomplete="current-password" required></label></p>
    <p><button name="decision" value="allow">Sign in and allow</button> <button name="decision" value="deny" formnovalidate>Do not allow</button></p>
    <p><small>${hints.join('<br>')}</small></p></form>`,
    );
  const redirectProblem = (v: Record<string, unknown>): string | null => {
    if (one(v['client_id']) !== 'zakuska') return 'This client is not registered here.';
    try {
      const u = new URL(one(v['redirect_uri']));
      return /^(127\.0\.0\.1|localhost|\[::1\])$/.test(u.hostname) && u.pathname === '/api/v1/connections/callback'
        ? null
        : 'This redirect address is not registered for the client.';
    } catch {
      return 'The redirect address is no address.';
    }
  };

  routes.get('/authorize', (q, r) => {
    const problem =
      redirectProblem(q.query) ??
      (one(q.query['response_type']) !== 'code' || one(q.query['code_challenge_method']) !== 'S256' || !one(q.query['code_challenge'])
        ? 'Only the code flow with an S256 code challenge is accepted.'
        : null);
    if (problem) return void r.status(400).send(page('Cannot connect', `<p class="error">${problem}</p>`));
    r.send(connectPage(q.query));
  });
  routes.post('/authorize', form, async (q, r) => {
    const body = q.body as Record<string, unknown>;
    const problem = redirectProblem(body);
    if (problem) return void r.status(400).send(page('Cannot connect', `<p class="error">${problem}</p>`));
    const back = new URL(one(body['redirect_uri']));
    back.searchParams.set('state', one(body['state']));
    if (one(body['decision']) !== 'allow') {
      back.searchParams.set('error', 'access_denied');
      return r.redirect(303, back.href);
    }
    const user = one(body['user']).trim();
    if (!Object.hasOwn(accounts, user) || accounts[user]?.password !== one(body['password']))
      return void r.status(401).send(connectPage(body, 'User name and password do not go together.'));
    const code = token();
    await tokens.keepCode(code, user, one(body['redirect_uri']), one(body['code_challenge']));
    back.searchParams.set('code', code);
    r.redirect(303, back.href);
  });

  routes.post('/token', form, async (q, r) => {
    const b = q.body as Record<string, unknown>;
    const refuse = (error: string): void => void r.status(400).json({ error });
    let account: string | undefined;
    if (one(b['grant_type']) === 'authorization_code') {
      const grant = await tokens.takeCode(one(b['code']));
      const challenge = createHash('sha256').update(one(b['code_verifier'])).digest('base64url');
      if (!grant || grant.redirect_uri !== one(b['redirect_uri']) || grant.challenge !== challenge) return refuse('invalid_grant');
      account = grant.account;
    } else if (one(b['grant_type']) === 'refresh_token') {
      account = await tokens.accountOf(one(b['refresh_token']), 'refresh');
      if (!account) return refuse('invalid_grant');
    } else return refuse('unsupported_grant_type');
    const access = token();
    const refresh = token();
    await tokens.keep(access, 'access', account, HOUR);
    await tokens.keep(refresh, 'refresh', account, 90 * 24 * HOUR);
    r.setHeader('cache-control', 'no-store').json({ access_token: access, token_type: 'Bearer', expires_in: HOUR, refresh_token: refresh, scope });
  });

  // RFC 7009: a token that is not known is no error
  routes.post('/revoke', form, async (q, r) => {
    await tokens.end(one((q.body as Record<string, unknown>)['token']));
    r.status(200).end();
  });
  return routes;
}
