import { Body, Controller, Delete, Get, HttpCode, Post, Req, Res } from '@nestjs/common';
import { ApiProperty, ApiTags } from '@nestjs/swagger';
import { EntityManager } from '@mikro-orm/postgresql';
import { hash, verify } from '@node-rs/argon2';
import { IsString, Length } from 'class-validator';
import type { CookieOptions, Request, Response } from 'express';
import { Problem } from '../platform/problem.js';
import { newToken, tokenHash } from '../platform/secrets.js';
import { settings } from '../platform/settings.js';
import { Access, COOKIE, Me, type Signed, type ZakuskaRequest, Gives } from './access.js';
import { Account, Membership, roles, Session } from './entities.js';
import { RateLimit } from './rateLimit.js';

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

const DAYS = 14;
const cookie = (): CookieOptions => ({ httpOnly: true, sameSite: 'lax', secure: settings().secureCookies, path: '/', maxAge: DAYS * 86_400_000 });

/** argon2id with the library's defaults (OWASP Password Storage: 19 MiB, two passes, one lane). */
export const hashPassword = (password: string): Promise<string> => hash(password);
/** Checked against when the address is unknown, so that both cases take as long. */
let decoy: Promise<string> | undefined;

@ApiTags('session')
@Controller('session')
export class SessionController {
  constructor(
    private readonly em: EntityManager,
    private readonly limit: RateLimit,
  ) {}

  @Post()
  @Gives(SessionView)
  @Access('public')
  async signIn(@Body() body: SignInBody, @Req() req: Request, @Res({ passthrough: true }) res: Response): Promise<SessionView> {
    const email = body.email.trim().toLowerCase();
    const keys = [`sign-in ${email}`, `sign-in from ${req.ip ?? ''}`] as const;
    await this.limit.check(keys[0], 8, 10);
    await this.limit.check(keys[1], 60, 10);
    const em = this.em.fork();
    const account = await em.findOne(Account, { email });
    const right = await verify(account?.passwordHash ?? (await (decoy ??= hashPassword(newToken()))), body.password);
    if (!account || !right) {
      await this.limit.failed(keys[0]);
      await this.limit.failed(keys[1]);
      throw new Problem(401, 'wrong-password', 'Address and password do not go together. Check both; capitals count in the password.');
    }
    await this.limit.forget(keys[0]);
    const token = newToken();
    const session = em.create(Session, { id: tokenHash(token), account, csrf: newToken(18), expiresAt: new Date(Date.now() + DAYS * 86_400_000) });
    await em.persistAndFlush(session);
    res.cookie(COOKIE, token, cookie());
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
