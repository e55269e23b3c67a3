/** A person's own account: name, address, password, second factor, sessions, and its end. */
import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post, Put, Res } from '@nestjs/common';
import { ApiProperty, ApiTags } from '@nestjs/swagger';
import { EntityManager, LockMode } from '@mikro-orm/postgresql';
import { memberRoles } from '@zakuska/core';
import { Transform } from 'class-transformer';
import { IsEmail, IsString, Length } from 'class-validator';
import type { Response } from 'express';
import QRCode from 'qrcode';
import { mailThere } from '../mail/outbox.js';
import { gone, Problem } from '../platform/problem.js';
import { Access, Gives, Me, type Signed } from './access.js';
import { DEMO, givenName, tidy } from './accounts.js';
import { wasDone } from './audit.js';
import { Account, Membership, Session, Workspace } from './entities.js';
import { handOver, type Leaving, leavingOf, lockMembers } from './leaving.js';
import { AskedIn, type LetterLanguage } from './letters.js';
import { Links } from './links.js';
import { isPassword, LONGEST, newPassword } from './passwords.js';
import { RateLimit } from './rateLimit.js';
import { afterCode, forDevice, newSecondFactor, withSpareCodes } from './secondFactor.js';
import { Sessions, SessionView } from './sessions.js';

class OpenSessionView {
  @ApiProperty() id!: string;
  @ApiProperty({ description: 'What the browser says it is.' }) agent!: string;
  @ApiProperty() since!: string;
  @ApiProperty({ description: 'To a few minutes.' }) seen!: string;
  @ApiProperty({ description: 'The one that asks.' }) here!: boolean;
}
class LeavingView implements Leaving {
  @ApiProperty() workspace!: string;
  @ApiProperty() name!: string;
  @ApiProperty({ enum: memberRoles, enumName: 'MemberRole' }) role!: Leaving['role'];
  @ApiProperty({ description: 'Sets that the person owns there.' }) sets!: number;
  @ApiProperty({ enum: ['stays', 'goes', 'held'], description: 'When the account goes: others go on; nobody else is there; others are there, none an owner.' })
  fate!: Leaving['fate'];
}
class AccountView {
  @ApiProperty() name!: string;
  @ApiProperty() email!: string;
  @ApiProperty({ description: 'A link that was sent to the address came back.' }) confirmed!: boolean;
  @ApiProperty({ description: 'Mails can be sent from here.' }) mails!: boolean;
  @ApiProperty({ description: 'The demo account, which everybody knows: what guards it stays as it is.' }) shared!: boolean;
  @ApiProperty() secondFactor!: boolean;
  @ApiProperty({ description: 'Spare codes that are left.' }) spareCodes!: number;
  @ApiProperty({ type: [OpenSessionView] }) sessions!: OpenSessionView[];
  @ApiProperty({ type: [LeavingView] }) workspaces!: LeavingView[];
}
class AccountPatch {
  @ApiProperty() @IsString() @Length(1, 200) name!: string;
}
class PasswordBody {
  @ApiProperty() @IsString() @Length(1, LONGEST) password!: string;
}
class NewPasswordBody extends PasswordBody {
  @ApiProperty() @IsString() @Length(1, LONGEST) next!: string;
}
class NewAddressBody extends PasswordBody {
  @ApiProperty() @Transform(({ value }) => tidy(value)) @IsEmail() @Length(3, 200) email!: string;
}
class AddressChangedView {
  @ApiProperty({ description: 'A link went to the new address; it counts once that was followed.' }) mailed!: boolean;
}
class DeviceView {
  @ApiProperty({ description: 'To type into the device.' }) secret!: string;
  @ApiProperty({ description: 'The same as a QR code (SVG).' }) picture!: string;
}
class CodeBody {
  @ApiProperty() @IsString() @Length(1, 40) code!: string;
}
class SpareCodesView {
  @ApiProperty({ type: [String], description: 'Each is good once, for the day that the device is lost. They are shown this once.' }) codes!: string[];
}

/** @throws Problem 403 for the demo account, which is everybody's */
function notDemo({ account }: Signed): void {
  if (account.email === DEMO.email) throw new Problem(403, 'demo', 'The demo account is everybody’s: its password, address and sign-in stay as they are.');
}

@ApiTags('account')
@Controller('account')
export class AccountController {
  constructor(
    private readonly em: EntityManager,
    private readonly links: Links,
    private readonly sessions: Sessions,
    private readonly limit: RateLimit,
  ) {}

  @Get()
  @Gives(AccountView)
  @Access('session')
  async get(@Me() me: Signed): Promise<AccountView> {
    const em = this.em.fork();
    const a = await em.findOneOrFail(Account, { id: me.account.id });
    const shared = a.email === DEMO.email;
    const ours = { account: a, expiresAt: { $gt: new Date() }, ...(shared && { id: me.session.id }) };
    const open = await em.find(Session, ours, { orderBy: { seenAt: 'desc' } });
    return {
      name: a.name,
      email: a.email,
      confirmed: a.confirmedAt !== null,
      mails: mailThere(),
      shared,
      secondFactor: a.secondFactor?.on ?? false,
      spareCodes: a.secondFactor?.spare.length ?? 0,
      sessions: open.map((s) => ({ id: s.id, agent: s.agent, since: s.createdAt.toISOString(), seen: s.seenAt.toISOString(), here: s.id === me.session.id })),
      workspaces: await leavingOf(em, a.id),
    };
  }

  @Patch()
  @Gives(SessionView)
  @Access('session')
  async rename(@Body() { name }: AccountPatch, @Me() me: Signed): Promise<SessionView> {
    const said = givenName(name);
    await this.em.fork().nativeUpdate(Account, { id: me.account.id }, { name: said });
    return this.sessions.now({ ...me, account: { ...me.account, name: said } });
  }

  /** A new password; all other browsers are signed out. */
  @Put('password')
  @HttpCode(204)
  @Access('session')
  async password(@Body() body: NewPasswordBody, @Me() me: Signed, @Res({ passthrough: true }) res: Response): Promise<void> {
    await this.change(me, body.password, async (em, a) => {
      a.passwordHash = await newPassword(body.next, a);
      await this.sessions.endAll(em, a.id, me.session.id);
      await wasDone(em, { account: a.id, what: 'password changed' });
      this.sessions.know(a, res);
    });
  }

  /** Another address; where mails can be sent it counts once a link to it was followed, so that nobody locks themselves out by a slip. */
  @Put('address')
  @Gives(AddressChangedView)
  @Access('session')
  async address(@Body() body: NewAddressBody, @Me() me: Signed, @AskedIn() language: LetterLanguage): Promise<AddressChangedView> {
    const { email } = body;
    await this.change(me, body.password, async (em, a) => {
      if (mailThere()) {
        await this.limit.take(`link to ${email}`, { free: 4, longest: 3600 });
        await this.links.send(em, { purpose: 'address', email, account: a }, language);
        return;
      }
      if (email !== a.email && (await em.count(Account, { email })) > 0) throw new Problem(409, 'address-taken', 'There is another account with this address.');
      a.email = email;
      a.confirmedAt = null;
      await wasDone(em, { account: a.id, what: 'address changed', about: { to: email } });
    });
    return { mailed: mailThere() };
  }

  @Delete('sessions/:session')
  @HttpCode(204)
  @Access('session')
  async endSession(@Param('session') id: string, @Me() me: Signed): Promise<void> {
    const em = this.em.fork();
    notDemo(me);
    if (!(await em.nativeDelete(Session, { id, account: me.account.id }))) throw gone('session');
    await wasDone(em, { account: me.account.id, what: 'sessions ended', about: { how: 'one' } });
  }
  /** Signs all other browsers out. */
  @Delete('sessions')
  @HttpCode(204)
  @Access('session')
  async endOthers(@Me() me: Signed): Promise<void> {
    notDemo(me);
    const em = this.em.fork();
    const n = await this.sessions.endAll(em, me.account.id, me.session.id);
    if (n) await wasDone(em, { account: me.account.id, what: 'sessions ended', about: { how: 'all others' } });
  }

  /** A secret for a device that shows codes; it is asked for once a first code was right. */
  @Post('second-factor')
  @Gives(DeviceView)
  @Access('session')
  async begin(@Body() { password }: PasswordBody, @Me() me: Signed): Promise<DeviceView> {
    const f = await this.change(me, password, async (_, a) => {
      if (a.secondFactor?.on) throw new Problem(409, 'second-factor-on', 'Codes are asked for already. Turn that off first to change the device.');
      a.secondFactor = newSecondFactor();
      return a.secondFactor;
    });
    const { address, secret } = forDevice(f, me.account.email);
    return { secret, picture: await QRCode.toString(address, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' }) };
  }
  @Put('second-factor')
  @Gives(SpareCodesView)
  @Access('session')
  async confirm(@Body() { code }: CodeBody, @Me() me: Signed): Promise<SpareCodesView> {
    await this.limit.take(`second factor ${me.account.id}`, { free: 10, longest: 300 });
    return this.em.fork().transactional(async (em) => {
      const a = await em.findOneOrFail(Account, { id: me.account.id }, { lockMode: LockMode.PESSIMISTIC_WRITE });
      const after = a.secondFactor && afterCode(a.secondFactor, code);
      if (!after) throw new Problem(422, 'wrong-code', 'This code is not right. Type the one that the device shows now; check that its clock is right.');
      const { factor, codes } = withSpareCodes(after);
      a.secondFactor = { ...factor, on: true };
      await wasDone(em, { account: a.id, what: 'second factor on' });
      return { codes };
    });
  }
  @Post('second-factor/end')
  @HttpCode(204)
  @Access('session')
  async endFactor(@Body() { password }: PasswordBody, @Me() me: Signed): Promise<void> {
    await this.change(me, password, async (em, a) => {
      if (a.secondFactor?.on) await wasDone(em, { account: a.id, what: 'second factor off' });
      a.secondFactor = null;
    });
  }

  /** Deletes the account. Workspaces of nobody else go with it; in the others sets get another owner, and what was done stays without a name. */
  @Post('end')
  @HttpCode(204)
  @Access('session')
  async end(@Body() body: PasswordBody, @Me() me: Signed, @Res({ passthrough: true }) res: Response): Promise<void> {
    await this.change(me, body.password, async (em, a) => {
      const ours = await em.find(Membership, { account: a }, { orderBy: { workspace: 'asc' } });
      for (const m of ours) await lockMembers(em, m.workspace.id);
      const all = await leavingOf(em, a.id);
      const held = all.filter((w) => w.fate === 'held');
      if (held.length)
        throw new Problem(409, 'last-owner', `Nobody else is an owner of ${held.map((w) => `“${w.name}”`).join(', ')}. Make somebody else an owner first.`);
      for (const w of all)
        if (w.fate === 'goes') await em.nativeDelete(Workspace, { id: w.workspace });
        else {
          await handOver(em, w.workspace, a.id);
          await wasDone(em, { workspace: w.workspace, what: 'left', about: { who: a.name } });
        }
      await em.nativeDelete(Account, { id: a.id });
      em.clear();
    });
    this.sessions.forget(res);
  }

  /** Does what needs the password once more: who finds an open browser cannot take the account. */
  private async change<T>(me: Signed, password: string, work: (em: EntityManager, account: Account) => Promise<T>): Promise<T> {
    notDemo(me);
    const key = `password of ${me.account.id}`;
    await this.limit.take(key, { free: 6, longest: 900 });
    return this.em.fork().transactional(async (em) => {
      const account = await em.findOneOrFail(Account, { id: me.account.id }, { lockMode: LockMode.PESSIMISTIC_WRITE });
      if (!(await isPassword(account.passwordHash, password))) throw new Problem(403, 'wrong-password', 'This is not your password. Capitals count.');
      await this.limit.forget(key);
      return work(em, account);
    });
  }
}
