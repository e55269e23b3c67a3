/** Links that are good once: to make an account, a new password, another address, to join a workspace. Only their hashes are kept. */
import { Body, Controller, Get, HttpCode, Injectable, Param, Post, Req, Res } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager, UniqueConstraintViolationException } from '@mikro-orm/postgresql';
import { type MemberRole, memberRoles, newId } from '@zakuska/core';
import { Transform } from 'class-transformer';
import { IsEmail, IsOptional, IsString, Length } from 'class-validator';
import type { Request, Response } from 'express';
import { mailThere, Outbox } from '../mail/outbox.js';
import { Problem } from '../platform/problem.js';
import { newToken, tokenHash } from '../platform/secrets.js';
import { sql } from '../platform/sql.js';
import { settings } from '../platform/settings.js';
import { Access, Gives, Me, type Signed } from './access.js';
import { givenName, tidy } from './accounts.js';
import { wasDone } from './audit.js';
import { Account, AccountLink, type LinkPurpose, linkPurposes, Membership, Workspace } from './entities.js';
import { AskedIn, type LetterLanguage, linkLetter } from './letters.js';
import { LONGEST, newPassword } from './passwords.js';
import { RateLimit } from './rateLimit.js';
import { Sessions, SessionView } from './sessions.js';

const HOURS: Record<LinkPurpose, number> = { 'sign-up': 24, reset: 2, address: 24, invitation: 14 * 24 };
/** Until a link was used this long ago, it says so. */
export const USED_DAYS = 30;
/** Milliseconds that an answer takes at least which must not tell whether an address is known. */
const EVENLY = 400;

class MailAddressBody {
  @ApiProperty() @Transform(({ value }) => tidy(value)) @IsEmail() @Length(3, 200) email!: string;
}
class LinkedAccountView {
  @ApiProperty({ enum: linkPurposes, enumName: 'LinkPurpose' }) purpose!: LinkPurpose;
  @ApiProperty() email!: string;
  @ApiProperty({ description: 'There is an account with this address.' }) account!: boolean;
  @ApiPropertyOptional({ description: 'What an invitation leads to.' }) workspace?: string;
  @ApiPropertyOptional({ enum: memberRoles, enumName: 'MemberRole' }) role?: MemberRole;
  @ApiPropertyOptional({ description: 'Who invites.' }) by?: string;
}
class FollowBody {
  @ApiPropertyOptional({ description: 'Of a new account.' }) @IsOptional() @IsString() @Length(1, 200) name?: string;
  @ApiPropertyOptional({ description: 'Of a new account, or the new one.' }) @IsOptional() @IsString() @Length(1, LONGEST) password?: string;
}
class FollowedView {
  @ApiPropertyOptional({ description: 'Where following it signs in.' }) session?: SessionView;
}

interface Wanted {
  purpose: LinkPurpose;
  email: string;
  account?: Account;
  workspace?: Workspace;
  role?: MemberRole;
  by?: Account;
}

export const linkAddress = (token: string): string => `${settings().publicUrl}/link/${token}`;
/** Makes a link and gives its address; those before of the same purpose for the same address and workspace are void. */
export async function newLink(em: EntityManager, w: Wanted, token = newToken()): Promise<string> {
  await em.nativeDelete(AccountLink, { purpose: w.purpose, email: w.email, workspace: w.workspace ?? null, usedAt: null });
  em.create(AccountLink, {
    id: tokenHash(token),
    purpose: w.purpose,
    email: w.email,
    account: w.account ?? null,
    workspace: w.workspace ?? null,
    role: w.role ?? null,
    by: w.by ?? null,
    expiresAt: new Date(Date.now() + HOURS[w.purpose] * 3_600_000),
  });
  await em.flush();
  return linkAddress(token);
}

@Injectable()
export class Links {
  constructor(private readonly outbox: Outbox) {}

  /** The same, by mail, where mails can be sent. */
  async send(em: EntityManager, w: Wanted, language: LetterLanguage, token?: string): Promise<string> {
    const address = await newLink(em, w, token);
    if (!mailThere()) return address;
    const letter = linkLetter(w.purpose, address, { by: w.by?.name, workspace: w.workspace?.name }, language);
    await this.outbox.put(em, [{ name: w.account?.name ?? '', address: w.email, ...letter, secret: true }]);
    return address;
  }
  /**
   * The link of a token, with what it leads to.
   * @param use takes it: nobody else can after this transaction
   * @throws Problem 404 for one that is not known, 410 for one that was used or is over
   */
  async of(em: EntityManager, token: string, use = false): Promise<AccountLink> {
    const id = tokenHash(token);
    if (use) await sql(em, 'select 1 from account_link where id = ? for update', [id]);
    const link = await em.findOne(AccountLink, { id }, { populate: ['account', 'workspace', 'by'] });
    if (!link)
      throw new Problem(
        404,
        'link-unknown',
        'This link leads nowhere. It may have been withdrawn, or a newer one sent; look for the last mail, and copy the whole address.',
      );
    if (link.usedAt) throw new Problem(410, 'link-used', 'This link was used already. Sign in; where that does not work, ask for a new link.');
    if (link.expiresAt < new Date()) throw new Problem(410, 'link-over', 'The time of this link is over. Ask for a new one.');
    if (use) link.usedAt = new Date();
    return link;
  }
}

@ApiTags('links')
@Controller('links')
export class LinksController {
  constructor(
    private readonly em: EntityManager,
    private readonly links: Links,
    private readonly sessions: Sessions,
    private readonly limit: RateLimit,
  ) {}

  /** A link for a new password goes to an address, if there is an account with it; the answer is the same. */
  @Post('forgotten')
  @HttpCode(202)
  @Access('public')
  async forgotten(@Body() body: MailAddressBody, @Req() req: Request, @AskedIn() language: LetterLanguage): Promise<void> {
    if (!mailThere()) throw new Problem(422, 'mail-off', 'No mail server is set up here. Ask an administrator of your workspace for a new link.');
    await this.evenly(body, req, async (em, email) => {
      const account = await em.findOne(Account, { email });
      if (account) await this.links.send(em, { purpose: 'reset', email, account }, language);
    });
  }

  /** A link to make an account goes to an address; who has one already gets one for a new password. The answer is the same. */
  @Post('sign-up')
  @HttpCode(202)
  @Access('public')
  async signUp(@Body() body: MailAddressBody, @Req() req: Request, @AskedIn() language: LetterLanguage): Promise<void> {
    if (!mailThere() || !settings().openSignUp)
      throw new Problem(403, 'sign-up-closed', 'Accounts are made by invitation here. Ask somebody of your school who has one.');
    await this.evenly(body, req, async (em, email) => {
      const account = await em.findOne(Account, { email });
      await this.links.send(em, account ? { purpose: 'reset', email, account } : { purpose: 'sign-up', email }, language);
    });
  }

  private async evenly(body: MailAddressBody, req: Request, work: (em: EntityManager, email: string) => Promise<void>): Promise<void> {
    const { email } = body;
    await this.limit.take(`link to ${email}`, { free: 4, longest: 3600 });
    await this.limit.take(`link from ${req.ip ?? ''}`, { free: 40, longest: 600 });
    await Promise.all([this.em.fork().transactional((em) => work(em, email)), new Promise((r) => setTimeout(r, EVENLY))]);
  }

  /** What a link does; following it is another step, since programs that look through mails open every link. */
  @Get(':token')
  @Gives(LinkedAccountView)
  @Access('public')
  async look(@Param('token') token: string): Promise<LinkedAccountView> {
    const em = this.em.fork();
    const link = await this.links.of(em, token);
    return {
      purpose: link.purpose,
      email: link.email,
      account: link.account !== null || (await em.count(Account, { email: link.email })) > 0,
      ...(link.workspace && { workspace: link.workspace.name }),
      ...(link.role && { role: link.role }),
      ...(link.by && { by: link.by.name }),
    };
  }

  @Post(':token')
  @HttpCode(200)
  @Gives(FollowedView)
  @Access('public')
  async follow(@Param('token') token: string, @Body() body: FollowBody, @Req() req: Request, @Res({ passthrough: true }) res: Response): Promise<FollowedView> {
    const em = this.em.fork();
    const account = await em.transactional(async (t) => {
      const link = await this.links.of(t, token, true);
      return this.carryOut(t, link, body);
    });
    // a second factor is not passed by having the mail alone
    return account && !account.secondFactor?.on ? { session: await this.sessions.begin(em, account, req, res) } : {};
  }

  /** @returns whom it signs in */
  private async carryOut(em: EntityManager, link: AccountLink, body: FollowBody): Promise<Account | null> {
    const { email } = link;
    if (link.purpose === 'address') {
      const account = link.account as Account;
      if (account.email !== email && (await em.count(Account, { email })) > 0)
        throw new Problem(409, 'address-taken', 'There is another account with this address by now.');
      if (account.email !== email) await wasDone(em, { account: account.id, what: 'address changed', about: { to: email } });
      account.email = email;
      account.confirmedAt = new Date();
      return null;
    }
    if (link.purpose === 'reset') {
      const account = link.account as Account;
      account.passwordHash = await newPassword(body.password ?? '', account);
      account.confirmedAt ??= new Date();
      await this.sessions.endAll(em, account.id);
      await em.nativeDelete(AccountLink, { account: account.id, purpose: 'reset', usedAt: null, id: { $ne: link.id } });
      await wasDone(em, { account: account.id, what: 'password changed', about: { by: 'a link by mail' } });
      return account;
    }
    if ((await em.count(Account, { email })) > 0)
      throw new Problem(409, 'sign-in-first', 'There is an account with this address. Sign in with it, and follow the link again.');
    const name = givenName(body.name ?? '');
    const passwordHash = await newPassword(body.password ?? '', { name, email });
    const account = em.create(Account, { id: newId(), email, name, passwordHash, ...(link.purpose === 'sign-up' && { confirmedAt: new Date() }) });
    try {
      await em.flush();
    } catch (e) {
      if (e instanceof UniqueConstraintViolationException)
        throw new Problem(409, 'sign-in-first', 'There is an account with this address by now. Sign in with it.');
      throw e;
    }
    if (link.purpose === 'sign-up') await makeWorkspace(em, account, name);
    else await join(em, link, account);
    return account;
  }

  /** Who is signed in joins what an invitation leads to, whatever address it went to: they have the link. */
  @Post(':token/join')
  @HttpCode(200)
  @Gives(SessionView)
  @Access('session')
  async join(@Param('token') token: string, @Me() me: Signed): Promise<SessionView> {
    await this.em.fork().transactional(async (em) => {
      const link = await this.links.of(em, token, true);
      if (link.purpose !== 'invitation') throw new Problem(422, 'no-invitation', 'This link is no invitation.');
      await join(em, link, await em.findOneOrFail(Account, { id: me.account.id }));
    });
    return this.sessions.now(me);
  }
}

/** A workspace of somebody's own. */
export async function makeWorkspace(em: EntityManager, account: Account, name: string): Promise<Workspace> {
  const workspace = em.create(Workspace, { id: newId(), name });
  em.create(Membership, { account, workspace, role: 'owner' });
  await em.flush();
  await wasDone(em, { workspace: workspace.id, account: account.id, what: 'workspace made', about: { name } });
  return workspace;
}

/** @throws Problem 409 for somebody who is a member already; their role stays */
async function join(em: EntityManager, link: AccountLink, account: Account): Promise<void> {
  const workspace = link.workspace as Workspace;
  const there = await em.findOne(Membership, { account, workspace });
  if (there) throw new Problem(409, 'member-already', `You are a member of “${workspace.name}” already, as ${there.role}.`);
  await addMember(em, workspace, account, link.role ?? 'reader');
}

/** Makes somebody a member. @param how they came, where it was not by invitation */
export async function addMember(em: EntityManager, workspace: Workspace, account: Account, role: MemberRole, how?: string): Promise<void> {
  em.create(Membership, { account, workspace, role });
  await em.flush();
  await wasDone(em, { workspace: workspace.id, account: account.id, what: 'joined', about: { who: account.email, role, ...(how && { how }) } });
}
