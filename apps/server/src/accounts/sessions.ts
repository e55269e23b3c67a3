/** Sessions of browsers: begun with a cookie, told apart by what the browser says it is, ended one by one or all. */
import { Injectable } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { type MemberRole, memberRoles } from '@zakuska/core';
import type { CookieOptions, Request, Response } from 'express';
import { newToken, signed, tokenHash } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { COOKIE, type Signed } from './access.js';
import { Account, Membership, Session } from './entities.js';

class WorkspaceView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ enum: memberRoles, enumName: 'MemberRole' }) role!: MemberRole;
}
export class SessionView {
  @ApiProperty() accountId!: string;
  @ApiProperty() name!: string;
  @ApiProperty() email!: string;
  @ApiProperty() csrf!: string;
  @ApiProperty({ type: [WorkspaceView] }) workspaces!: WorkspaceView[];
  @ApiProperty({ description: 'An address with {query} in it, where this person looks things up; empty for none.' }) searchAddress!: string;
  @ApiProperty({ description: 'Larger files are not opened or sent.' }) maxUploadBytes!: number;
}

const DAYS = 14;
const cookie = (): CookieOptions => ({ httpOnly: true, sameSite: 'lax', secure: settings().secureCookies, path: '/', maxAge: DAYS * 86_400_000 });

/** Tells that a browser has signed in to an account before. Worth nothing without the password; a new password makes it void. */
const KNOWN = 'zakuska_known';
const knownMark = (a: Account): string => signed(`known ${a.id} ${a.passwordHash}`);
export const isKnown = (req: Request, a: Account): boolean => (req.cookies as Record<string, string> | undefined)?.[KNOWN] === knownMark(a);

@Injectable()
export class Sessions {
  constructor(private readonly em: EntityManager) {}

  /** Signs a browser in. */
  async begin(em: EntityManager, account: Account, req: Request, res: Response): Promise<SessionView> {
    const token = newToken();
    const agent = (req.headers['user-agent'] ?? '').replace(/[^\x20-\x7e]/g, '').slice(0, 300);
    const session = em.create(Session, {
      id: tokenHash(token),
      account,
      csrf: newToken(18),
      agent,
      expiresAt: new Date(Date.now() + DAYS * 86_400_000),
    });
    await em.persistAndFlush(session);
    res.cookie(COOKIE, token, cookie());
    this.know(account, res);
    return this.view(em, { account, session });
  }
  /** Lets a browser be known by the password as it is now. */
  know(account: Account, res: Response): void {
    res.cookie(KNOWN, knownMark(account), { ...cookie(), path: '/api/v1/session', maxAge: 365 * 86_400_000 });
  }
  /** Takes the cookie from a browser whose session has ended. */
  forget(res: Response): void {
    const { maxAge: _, ...options } = cookie();
    res.clearCookie(COOKIE, options);
  }
  /** Ends all sessions of an account, or all but one. */
  async endAll(em: EntityManager, account: string, but?: string): Promise<number> {
    return em.nativeDelete(Session, { account, ...(but && { id: { $ne: but } }) });
  }

  async view(em: EntityManager, { account, session }: Signed): Promise<SessionView> {
    const members = await em.find(Membership, { account: account.id }, { populate: ['workspace'], orderBy: { workspace: { name: 'asc' } } });
    return {
      accountId: account.id,
      name: account.name,
      email: account.email,
      csrf: session.csrf,
      searchAddress: account.searchAddress,
      maxUploadBytes: settings().maxUploadBytes,
      workspaces: members.map((m) => ({ id: m.workspace.id, name: m.workspace.name, role: m.role })),
    };
  }
  /** Of the session of a request. */
  now(me: Signed): Promise<SessionView> {
    return this.view(this.em.fork(), me);
  }
}
