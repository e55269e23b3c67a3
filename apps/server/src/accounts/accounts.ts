/** Signing in and out. */
import { Body, Controller, Delete, Get, HttpCode, Post, Req, Res } from '@nestjs/common';
import { ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import { EntityManager, LockMode } from '@mikro-orm/postgresql';
import { storable } from '@zakuska/core';
import { Transform } from 'class-transformer';
import { IsOptional, IsString, Length } from 'class-validator';
import type { Request, Response } from 'express';
import { mailThere } from '../mail/outbox.js';
import { Problem } from '../platform/problem.js';
import { settings } from '../platform/settings.js';
import { Access, Gives, Me, type Signed } from './access.js';
import { wasDone } from './audit.js';
import { Account, Session } from './entities.js';
import { isPassword, LONGEST } from './passwords.js';
import { type Limit, RateLimit } from './rateLimit.js';
import { afterCode } from './secondFactor.js';
import { isKnown, Sessions, SessionView } from './sessions.js';

/** Addresses are compared without capitals and outer spaces; what is no text stays as it is, to be refused. */
export const tidy = (said: unknown): unknown => (typeof said === 'string' ? said.trim().toLowerCase() : said);

/**
 * A name as it is kept.
 * @throws Problem 422 where nothing is left of it
 */
export function givenName(said: string, missing = 'Say by which name others know you.'): string {
  const name = storable(said).trim();
  if (!name) throw new Problem(422, 'name-missing', missing);
  return name;
}

class SignInBody {
  @ApiProperty() @Transform(({ value }) => tidy(value)) @IsString() @Length(1, 200) email!: string;
  @ApiProperty() @IsString() @Length(1, LONGEST) password!: string;
  @ApiPropertyOptional({ description: 'Of the second factor, where the account has one.' }) @IsOptional() @IsString() @Length(1, 40) code?: string;
}
class DemoView {
  @ApiPropertyOptional() email?: string;
  @ApiPropertyOptional() password?: string;
}
class WaysView {
  @ApiProperty({ description: 'Anybody may make an account, by a link in a mail.' }) signUp!: boolean;
  @ApiProperty({ description: 'A forgotten password is made anew by a link in a mail.' }) forgotten!: boolean;
  @ApiPropertyOptional({ description: 'What the school’s own provider is called, where there is one: `session/provider` leads there.' }) provider?: string;
}

export const DEMO = { email: 'm.okafor@saltmarsh.example', password: 'sourdough' };

@ApiTags('session')
@Controller('session')
export class SessionController {
  constructor(
    private readonly em: EntityManager,
    private readonly limit: RateLimit,
    private readonly sessions: Sessions,
  ) {}

  /** The demo account, where the demo is there: everybody may look around with it. */
  @Get('demo')
  @Gives(DemoView)
  @Access('public')
  async demo(): Promise<DemoView> {
    return (await this.em.fork().count(Account, { email: DEMO.email })) ? DEMO : {};
  }

  /** How somebody comes in who cannot sign in. */
  @Get('ways')
  @Gives(WaysView)
  @Access('public')
  ways(): WaysView {
    return { signUp: mailThere() && settings().openSignUp, forgotten: mailThere(), ...(settings().provider.issuer && { provider: settings().provider.name }) };
  }

  @Post()
  @Gives(SessionView)
  @Access('public')
  async signIn(@Body() body: SignInBody, @Req() req: Request, @Res({ passthrough: true }) res: Response): Promise<SessionView> {
    const { email } = body;
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
    const right = await isPassword(account?.passwordHash, body.password);
    if (!account || !right) {
      if (account) await wasDone(em, { account: account.id, what: 'sign-in refused', about: { because: 'wrong password' } });
      throw new Problem(401, 'wrong-password', 'Address and password do not go together. Check both; capitals count in the password.');
    }
    if (account.secondFactor?.on) await this.checkCode(em, account, body.code);
    await this.limit.forget(own);
    for (const [key] of limits.slice(1)) await this.limit.forgive(key);
    await wasDone(em, { account: account.id, what: 'signed in' });
    return this.sessions.begin(em, account, req, res);
  }

  /** Uses up a code of the second factor; of two browsers that send the same one, one is let in. */
  private async checkCode(em: EntityManager, { id }: Account, code: string | undefined): Promise<void> {
    if (code === undefined) throw new Problem(401, 'code-needed', 'Type the code that your device shows, or one of your spare codes.');
    const right = await em.transactional(async (t) => {
      const account = await t.findOneOrFail(Account, { id }, { lockMode: LockMode.PESSIMISTIC_WRITE, refresh: true });
      const after = account.secondFactor && afterCode(account.secondFactor, code);
      if (after) account.secondFactor = after;
      return after !== null;
    });
    if (right) return;
    await wasDone(em, { account: id, what: 'sign-in refused', about: { because: 'wrong code' } });
    throw new Problem(401, 'wrong-code', 'This code is not right, or was used already. Wait for the next one; check that the clock of your device is right.');
  }

  @Get()
  @Gives(SessionView)
  @Access('session')
  current(@Me() me: Signed): Promise<SessionView> {
    return this.sessions.now(me);
  }

  @Delete()
  @HttpCode(204)
  @Access('session')
  async signOut(@Me() me: Signed, @Res({ passthrough: true }) res: Response): Promise<void> {
    await this.em.fork().nativeDelete(Session, { id: me.session.id });
    this.sessions.forget(res);
  }
}
