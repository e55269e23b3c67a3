/**
 * Signing in with the school's own provider (OpenID Connect Core 1.0, code flow, with PKCE of RFC 7636). Who comes from there for the first
 * time is the account with the same address, where the provider says that it has checked it; else a new one, where the installation lets
 * such people in. A second factor is the provider's to ask for.
 */
import { Controller, Get, Injectable, Query, Redirect, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { newId, storable } from '@zakuska/core';
import { IsOptional, IsString, Matches } from 'class-validator';
import type { Request, Response } from 'express';
import * as client from 'openid-client';
import { decrypt, encrypt, newToken } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { sql } from '../platform/sql.js';
import { Access } from './access.js';
import { tidy } from './accounts.js';
import { wasDone } from './audit.js';
import { Account, Workspace } from './entities.js';
import { addMember, makeWorkspace } from './links.js';
import { hashPassword } from './passwords.js';
import { Sessions } from './sessions.js';

/** What the browser keeps, encrypted, while the person is at the provider. */
const UNDER_WAY = 'zakuska_provider';
const MINUTES = 15;
const PATH = '/api/v1/session/provider';
const SCOPE = 'openid email profile';

interface UnderWay {
  state: string;
  nonce: string;
  verifier: string;
  back: string;
  until: number;
}
class BackQuery {
  /** A path of ours: nobody is sent elsewhere. */
  @IsOptional() @IsString() @Matches(/^\/(?![/\\])[^\\]{0,500}$/) back?: string;
}

/** Why somebody was not let in; said on the page of the sign-in. */
class NotIn extends Error {}

/** What a provider says of a person. */
interface Person {
  subject: string;
  /** Only where the provider has checked it. */
  email?: string;
  name: string;
}

@Injectable()
export class SchoolProvider {
  private found: Promise<client.Configuration> | undefined;

  /** The provider as it says of itself; asked anew where it did not answer. */
  configuration(): Promise<client.Configuration> {
    const { issuer, clientId, clientSecret } = settings().provider;
    this.found ??= client.discovery(new URL(issuer), clientId, clientSecret || undefined, undefined, {
      // the library leaves signatures to TLS; here they are checked, whatever lies between
      execute: [client.enableNonRepudiationChecks, ...(issuer.startsWith('http:') ? [client.allowInsecureRequests] : [])],
    });
    this.found.catch(() => (this.found = undefined));
    return this.found;
  }
}

@ApiTags('session')
@Controller('session/provider')
export class ProviderController {
  constructor(
    private readonly em: EntityManager,
    private readonly provider: SchoolProvider,
    private readonly sessions: Sessions,
  ) {}

  /** Sends the browser to the provider. */
  @Get()
  @Redirect()
  @Access('public')
  async begin(@Query() { back = '/' }: BackQuery, @Res({ passthrough: true }) res: Response): Promise<{ url: string }> {
    if (!settings().provider.issuer) return refused('No school provider is set up here.');
    try {
      const config = await this.provider.configuration();
      const underWay: UnderWay = {
        state: newToken(),
        nonce: newToken(),
        verifier: client.randomPKCECodeVerifier(),
        back,
        until: Date.now() + MINUTES * 60_000,
      };
      const url = client.buildAuthorizationUrl(config, {
        redirect_uri: redirectUri(),
        scope: SCOPE,
        state: underWay.state,
        nonce: underWay.nonce,
        code_challenge: await client.calculatePKCECodeChallenge(underWay.verifier),
        code_challenge_method: 'S256',
      });
      res.cookie(UNDER_WAY, encrypt(JSON.stringify(underWay)), {
        httpOnly: true,
        sameSite: 'lax',
        secure: settings().secureCookies,
        path: PATH,
        maxAge: MINUTES * 60_000,
      });
      return { url: url.href };
    } catch {
      return refused('The provider of your school does not answer. Try again in a while.');
    }
  }

  /** Where the provider sends the browser back to. */
  @Get('callback')
  @Redirect()
  @Access('public')
  async callback(@Req() req: Request, @Res({ passthrough: true }) res: Response): Promise<{ url: string }> {
    res.clearCookie(UNDER_WAY, { path: PATH });
    const underWay = underWayOf(req);
    if (!underWay) return refused('This sign-in was not begun here, or took too long. Begin again.');
    if (req.query['error'] === 'access_denied') return refused('The sign-in was broken off at your school’s provider.');
    try {
      const person = await this.personOf(req, underWay);
      const em = this.em.fork();
      const account = await em.transactional((t) => this.accountOf(t, person));
      await wasDone(em, { account: account.id, what: 'signed in', about: { how: 'the school’s provider' } });
      await this.sessions.begin(em, account, req, res);
      return { url: `${settings().publicUrl}${underWay.back}` };
    } catch (e) {
      return refused(e instanceof NotIn ? e.message : 'The provider of your school did not confirm who you are. Begin again.');
    }
  }

  private async personOf(req: Request, { state, nonce, verifier }: UnderWay): Promise<Person> {
    const config = await this.provider.configuration();
    const tokens = await client.authorizationCodeGrant(config, new URL(req.originalUrl, settings().publicUrl), {
      expectedState: state,
      expectedNonce: nonce,
      pkceCodeVerifier: verifier,
      idTokenExpected: true,
    });
    const token = tokens.claims();
    if (!token) throw new Error('no ID token');
    // what is not in the token stands in what the provider says on request
    const more = config.serverMetadata().userinfo_endpoint ? await client.fetchUserInfo(config, tokens.access_token, token.sub) : {};
    const claims: Record<string, unknown> = { ...token, ...more };
    const said = (name: string): string => (typeof claims[name] === 'string' ? storable(claims[name]).trim().slice(0, 200) : '');
    const email = claims['email_verified'] === true ? (tidy(said('email')) as string) : '';
    return { subject: token.sub, ...(email && { email }), name: said('name') || said('preferred_username') || email || 'Somebody' };
  }

  private async accountOf(em: EntityManager, { subject, email, name }: Person): Promise<Account> {
    const { issuer } = settings().provider;
    const [known] = await sql<{ account_id: string }>(em, 'select account_id from account_identity where issuer = ? and subject = ?', [issuer, subject]);
    if (known) return em.findOneOrFail(Account, { id: known.account_id });
    if (!email) throw new NotIn('Your school’s provider does not say which address is yours. Ask whoever keeps it.');
    const account = (await em.findOne(Account, { email })) ?? (await this.newAccount(em, email, name));
    account.confirmedAt ??= new Date();
    await em.flush();
    await sql(em, 'insert into account_identity (issuer, subject, account_id) values (?, ?, ?)', [issuer, subject, account.id]);
    return account;
  }
  private async newAccount(em: EntityManager, email: string, name: string): Promise<Account> {
    const { workspace: id, role } = settings().provider;
    const workspace = id ? await em.findOne(Workspace, { id }) : null;
    if (!workspace && !settings().openSignUp) throw new NotIn('There is no account with your address here. Ask a colleague for an invitation.');
    // nobody knows this password; one of their own comes by the link for a forgotten one
    const account = em.create(Account, { id: newId(), email, name, passwordHash: await hashPassword(newToken()) });
    await em.flush();
    if (!workspace) await makeWorkspace(em, account, name);
    else await addMember(em, workspace, account, role, 'the school’s provider');
    return account;
  }
}

const redirectUri = (): string => `${settings().publicUrl}${PATH}/callback`;
/** Back to the sign-in, with what went wrong. */
const refused = (why: string): { url: string } => ({ url: `${settings().publicUrl}/?refused=${encodeURIComponent(why)}` });

function underWayOf(req: Request): UnderWay | null {
  const kept = (req.cookies as Record<string, string> | undefined)?.[UNDER_WAY];
  if (!kept) return null;
  try {
    const underWay = JSON.parse(decrypt(kept)) as UnderWay;
    return underWay.until > Date.now() ? underWay : null;
  } catch {
    return null;
  }
}
