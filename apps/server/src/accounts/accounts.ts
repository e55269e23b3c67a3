import { Body, Controller, Delete, Get, HttpCode, Post, Req, Res } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { hash, verify } from '@node-rs/argon2';
import { IsString, Length } from 'class-validator';
import type { CookieOptions, Request, Response } from 'express';
import { Problem } from '../platform/problem.js';
import { newToken, signed, tokenHash } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { Access, COOKIE, Me, type Signed, type ZakuskaRequest, Gives } from './access.js';
import { Account, Membership, roles, Session } from './entities.js';
import { type Limit, RateLimit } from './rateLimit.js';

class SignInBody {
  @ApiProperty() @IsString() @Length(1, 200) email!: string;
  @ApiProperty() @IsString() @Length(1, 200) password!: string;
}
class WorkspaceView {
  @ApiProperty() id!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ enum: roles }) role!: string;
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

class DemoView {
  @ApiPropertyOptional() email?: string;
  @ApiPropertyOptional() password?: string;
}

export const DEMO = { email: 'm.okafor@saltmarsh.example', password: 'sourdough' };

const DAYS = 14;
const cookie = (): CookieOptions => ({ httpOnly: true, sameSite: 'lax', secure: settings().secureCookies, path: '/', maxAge: DAYS * 86_400_000 });

/** argon2id with the library's defaults (OWASP Password Storage: 19 MiB, two passes, one lane). */
export const hashPassword = (password: string): Promise<string> => hash(password);
/** Tells that a browser has signed in to an account before. Worth nothing without the password; a new password makes it void. */
const KNOWN = 'zakuska_known';
const knownMark = (a: Account): string => signed(`known ${a.id} ${a.passwordHash}`);
const isKnown = (req: Request, a: Account): boolean => (req.cookies as Record<string, string> | undefined)?.[KNOWN] === knownMark(a);
/** Checked against when the address is unknown, so that both cases take as long. */
let decoy: Promise<string> | undefined;

@ApiTags('session')
@Controller('session')
export class SessionController {
  constructor(
    private readonly em: EntityManager,
    private readonly limit: RateLimit,
  ) {}

  /** The demo account, where the demo is there: everybody may look around with it. */
  @Get('demo')
  @Gives(DemoView)
  @Access('public')
  async demo(): Promise<DemoView> {
    return (await this.em.fork().count(Account, { email: DEMO.email })) ? DEMO : {};
  }

  @Post()
  @Gives(SessionView)
  @Access('public')
  async signIn(@Body() body: SignInBody, @Req() req: Request, @Res({ passthrough: true }) res: Response): Promise<SessionView> {
    const email = body.email.trim().toLowerCase();
    const em = this.em.fork();
    const account = await em.findOne(Account, { email });
    const known = account !== null && isKnown(req, account);
    // A guesser is held up by address and account, a guesser with many addresses by account alone. A browser that has signed in to the
    // account before is not: nobody locks its owner out. A class behind one address may mistype a good deal.
    const own = `sign-in ${email} ${known ? 'known' : (req.ip ?? '')}`;
    const limits: [string, Limit][] = [
      [own, { free: 6, longest: 900 }],
      ...(known
        ? []
        : ([
            [`sign-in ${email}`, { free: 50, longest: 60 }],
            [`sign-in from ${req.ip ?? ''}`, { free: 100, longest: 60 }],
          ] as [string, Limit][])),
    ];
    for (const [key, limit] of limits) await this.limit.take(key, limit);
    const right = await verify(account?.passwordHash ?? (await (decoy ??= hashPassword(newToken()))), body.password);
    if (!account || !right) {
      throw new Problem(401, 'wrong-password', 'Address and password do not go together. Check both; capitals count in the password.');
    }
    await this.limit.forget(own);
    for (const [key] of limits.slice(1)) await this.limit.forgive(key);
    const token = newToken();
    const session = em.create(Session, { id: tokenHash(token), account, csrf: newToken(18), expiresAt: new Date(Date.now() + DAYS * 86_400_000) });
    await em.persistAndFlush(session);
    res.cookie(COOKIE, token, cookie());
    res.cookie(KNOWN, knownMark(account), { ...cookie(), path: '/api/v1/session', maxAge: 365 * 86_400_000 });
    return this.view(em, { account, session });
  }

  @Get()
  @Gives(SessionView)
  @Access('session')
  current(@Me() me: Signed): Promise<SessionView> {
    return this.view(this.em.fork(), me);
  }

  @Delete()
  @HttpCode(204)
  @Access('session')
  async signOut(@Me() me: Signed, @Req() _req: ZakuskaRequest, @Res({ passthrough: true }) res: Response): Promise<void> {
    await this.em.fork().nativeDelete(Session, { id: me.session.id });
    const { maxAge: _, ...options } = cookie();
    res.clearCookie(COOKIE, options);
  }

  private async view(em: EntityManager, { account, session }: Signed): Promise<SessionView> {
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
}
